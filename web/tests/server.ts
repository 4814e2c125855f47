// A test's demo server, and devices with cookies of their own that send requests to it.
import { inject } from "vitest";

/** `slower`: how many times as long as a usual computer this machine takes (tests/patience.py). */
export type Served = { pid: number; address: string; data: string; slower: number };

/** Sends a request to the parent process: a server, or data of the simulators (tests/oracle.py). */
export async function asked<T = any>(what: string, body: unknown = {}): Promise<T> {
  const answer = await native.fetch(`${inject("parent")}/${what}`, { method: "POST", body: JSON.stringify(body) });
  return (await answer.json()) as T;
}
export const start = (): Promise<Served> => asked("start");
export const stop = (pid: number): Promise<unknown> => asked("stop", { pid });

/** Node's own, as the environment found them. */
const native = (globalThis as unknown as { native: { fetch: typeof fetch; Request: typeof Request } }).native;

const PEOPLE: Record<string, string> = {
  "Tam Brandreth": "tam",
  "Ines Calder": "ines",
  "Jory Pell": "jory",
  "Wren Adair": "wren",
};

/** A device. `online` false: no signal. `instead`: answers a request in place of the server. */
export class Device {
  online = true;
  /** Requests in progress, for the message of a test that waits in vain. */
  readonly underWay: string[] = [];
  instead: ((request: Request) => Promise<Response> | Response | null) | null = null;
  private cookies = new Map<string, string>();
  private token = "";

  constructor(readonly address: string) {}

  async fetch(input: string | URL | Request, init?: RequestInit): Promise<Response> {
    if (!this.online) throw new TypeError("Failed to fetch");
    const request =
      input instanceof native.Request
        ? new native.Request(input, init)
        : new native.Request(new URL(String(input), this.address), init);
    const given = this.instead?.(request);
    if (given) return given;
    request.headers.set("Cookie", [...this.cookies].map(([name, value]) => `${name}=${value}`).join("; "));
    const what = `${request.method} ${new URL(request.url).pathname}`;
    this.underWay.push(what);
    const answer = await native.fetch(request).finally(() => this.underWay.splice(this.underWay.indexOf(what), 1));
    for (const line of answer.headers.getSetCookie()) {
      const [pair = "", ...facts] = line.split(";");
      const [name = "", value = ""] = pair.split("=");
      if (facts.some((fact) => /max-age=0$/i.test(fact.trim()))) this.cookies.delete(name);
      else this.cookies.set(name, value);
    }
    return answer;
  }

  /** Loses the session, as when it has expired. */
  forget(): void {
    this.cookies.delete("sessionid");
  }

  async signIn(who: string): Promise<void> {
    this.token = (await this.get<{ csrf_token: string }>("session")).csrf_token;
    const answer = await this.send("POST", "session", { username: PEOPLE[who] ?? who });
    this.token = (answer.body as { csrf_token: string }).csrf_token;
  }

  async get<T = any>(path: string): Promise<T> {
    const answer = await this.fetch(`/api/${path}`);
    return (await answer.json()) as T;
  }

  async send(method: string, path: string, body?: unknown): Promise<{ status: number; body: any }> {
    this.token ||= (await this.get<{ csrf_token: string }>("session")).csrf_token;
    const answer = await this.fetch(`/api/${path}`, {
      method,
      headers: { "X-CSRFToken": this.token, "Content-Type": "application/json" },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    const text = await answer.text();
    return { status: answer.status, body: text ? JSON.parse(text.trim().split("\n").at(-1) ?? "null") : null };
  }
}

/** Sets the device that sends the page's requests. */
export function onDevice(device: Device | null): void {
  globalThis.here = device as typeof globalThis.here;
}
