// Stand-ins for devices that send a reading when told to, and the bridge before them: processes of their own.
import { type ChildProcess, spawn } from "node:child_process";
import { resolve } from "node:path";
import { type Interface, createInterface } from "node:readline";
import { page, press, until } from "./page";

const ROOT = resolve(import.meta.dirname, "../..");
export const SEED = 4;

/** A process of ours; its output is taken line by line. */
class Running {
  private readonly lines: AsyncIterator<string>;
  private readonly output: Interface;
  private readonly process: ChildProcess;

  constructor(...command: string[]) {
    this.process = spawn(resolve(ROOT, ".venv/bin/python"), ["-u", "-m", ...command], {
      cwd: ROOT,
      stdio: ["pipe", "pipe", "inherit"],
    });
    this.output = createInterface({ input: this.process.stdout as NodeJS.ReadableStream });
    this.lines = this.output[Symbol.asyncIterator]();
  }
  async line(): Promise<string> {
    return String((await this.lines.next()).value);
  }
  say(text: string): void {
    this.process.stdin?.write(`${text}\n`);
  }
  stop(): void {
    this.output.close();
    this.process.kill("SIGKILL");
  }
}

/** Level 1, total station 2, electronic level 3. */
export class Yard {
  /** What the stand-ins said they sent. */
  readonly shown: string[] = [];
  private constructor(
    private readonly standIns: Running,
    private readonly bridge: Running,
    readonly address: string,
  ) {}

  static async start(): Promise<Yard> {
    const standIns = new Running("naveta_practice.serving", "serve", "--by-hand", "--seed", `${SEED}`, "--port", "0");
    const sources: string[] = [];
    for (let i = 0; i < 3; i += 1) sources.push(`tcp:127.0.0.1:${(await standIns.line()).split(" ").at(-1)}`);
    const bridge = new Running("bridge", ...sources, "--port", "0");
    return new Yard(standIns, bridge, `ws://127.0.0.1:${(await bridge.line()).split(":").at(-1)}`);
  }
  async shoot(device: 1 | 2, times = 1): Promise<void> {
    for (let i = 0; i < times; i += 1) {
      this.standIns.say(`${device}`);
      this.shown.push(await this.standIns.line());
    }
  }
  /** Every value sent, as the device wrote it. */
  get sent(): string[] {
    return [...this.shown.join("").matchAll(/"value":"([^"]+)"/g)].map((each) => each[1] ?? "");
  }
  stop(): void {
    this.bridge.stop();
    this.standIns.stop();
  }
}

export async function connect(yard: Yard): Promise<void> {
  await page.css("[data-link]").click();
  await page.label("Bridge").fill(yard.address);
  await page.button("Connect to the bridge").click();
  await page.text("tcp:127.0.0.1").some();
  await press("Escape");
  // The electronic level sends all the time: once its name is there, the core reads.
  await page.css("[data-link=connected]").says(/electronic-level-1|devices/);
}

/** So many readings have been placed on the sheet. */
export const arrived = (count: number): Promise<unknown> =>
  until(() => page.css("[data-count]").attr("data-count") === `${count}`);
