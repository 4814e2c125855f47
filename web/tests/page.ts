// A page of Naveta as somebody uses it: found by role, name and words, touched and typed, waited for until it says so.
import { resolveObjectURL } from "node:buffer";
import { queryAllByLabelText, queryAllByRole } from "@testing-library/dom";
import { type Root, createRoot } from "react-dom/client";
import userEvent from "@testing-library/user-event";
import { createElement } from "react";
import { App, newClient } from "../src/app/App";
import { engine } from "../src/engine/engine";
import { setScreen } from "./screen";
import { Device, type Served, onDevice, start, stop } from "./server";

export const NOW = new Date("2027-03-02T06:40:00Z");
const PATIENCE_MS = 10_000;
const user = userEvent.setup({ delay: 0, pointerEventsCheck: 0 });

/** What is behind an open dialog or hidden is not there for whoever looks for a role. */
const UNSEEN = "[aria-hidden=true], [hidden]";

type Words = string | RegExp;
const squeezed = (text: string | null): string => (text ?? "").replace(/\s+/g, " ").trim();
const holds = (text: string, words: Words): boolean =>
  typeof words === "string"
    ? squeezed(text).toLowerCase().includes(squeezed(words).toLowerCase())
    : words.test(squeezed(text));
const is = (text: string, words: Words, exact: boolean): boolean =>
  exact && typeof words === "string" ? squeezed(text) === squeezed(words) : holds(text, words);

/** Asks until nothing fails: what takes longer than ten seconds is a fault, and the last one is told. */
export async function until<T>(look: () => T | Promise<T>): Promise<T> {
  const end = performance.now() + PATIENCE_MS;
  for (;;) {
    try {
      const found = await look();
      if (found !== false) return found;
      throw new Error(`not yet: ${look.toString()}`);
    } catch (wrong) {
      if (performance.now() > end) {
        if (wrong instanceof Error)
          wrong.message += `\nUnder way: ${device?.underWay.join(", ") || "nothing"}. The page says: ${squeezed(document.body.textContent).slice(0, 700)}`;
        throw wrong;
      }
      await new Promise((done) => setTimeout(done, 8));
    }
  }
}

/** What a line of the page is found by; asked anew each time. */
export class Found {
  constructor(
    private readonly all_: () => Element[],
    readonly what: string,
  ) {}

  all(): HTMLElement[] {
    return this.all_() as HTMLElement[];
  }
  private within(what: string, look: (root: HTMLElement) => Element[]): Found {
    return new Found(() => [...new Set(this.all().flatMap(look))], `${this.what} > ${what}`);
  }
  css(selector: string): Found {
    return this.within(selector, (root) => [...root.querySelectorAll(selector)]);
  }
  role(role: string, name?: Words, { exact = false, level }: { exact?: boolean; level?: number } = {}): Found {
    const options = {
      hidden: true,
      ...(name === undefined ? {} : { name: (said: string) => is(said, name, exact) }),
      ...(level ? { level } : {}),
    };
    return this.within(`${role} ${String(name ?? "")}`, (root) =>
      queryAllByRole(root, role, options).filter((each) => !each.closest(UNSEEN)),
    );
  }
  label(name: Words, { exact = false }: { exact?: boolean } = {}): Found {
    return this.within(`label ${name}`, (root) => queryAllByLabelText(root, (said) => is(said, name, exact)));
  }
  /** The smallest elements that hold these words. */
  text(words: Words): Found {
    return this.within(`"${words}"`, (root) => {
      const found = [...root.querySelectorAll("*")].filter(
        (each) => each.tagName !== "SCRIPT" && each.tagName !== "STYLE" && holds(each.textContent ?? "", words),
      );
      return found.filter((each) => !found.some((other) => other !== each && each.contains(other)));
    });
  }
  alt(words: Words): Found {
    return this.within(`picture ${words}`, (root) =>
      [...root.querySelectorAll("[alt]")].filter((each) => holds(each.getAttribute("alt") ?? "", words)),
    );
  }
  button(name: Words, options: { exact?: boolean } = {}): Found {
    return this.role("button", name, options);
  }
  nth(index: number): Found {
    return new Found(() => this.all().slice(index).slice(0, 1), `${this.what} [${index}]`);
  }
  first(): Found {
    return this.nth(0);
  }
  last(): Found {
    return new Found(() => this.all().slice(-1), `the last ${this.what}`);
  }
  with(words: Words): Found {
    return new Found(
      () => this.all().filter((each) => holds(each.textContent ?? "", words)),
      `${this.what} with ${words}`,
    );
  }
  get count(): number {
    return this.all().length;
  }

  /** The one there is. */
  now(): HTMLElement {
    const found = this.all();
    if (found.length !== 1)
      throw new Error(
        `${found.length} instead of one: ${this.what}\n${found.map((each) => each.outerHTML.slice(0, 160)).join("\n")}`,
      );
    return found[0] as HTMLElement;
  }
  there(): Promise<HTMLElement> {
    return until(() => this.now());
  }
  get words(): string {
    return squeezed(this.now().textContent);
  }
  get value(): string {
    return (this.now() as HTMLInputElement).value;
  }
  attr(name: string): string {
    return this.now().getAttribute(name) ?? "";
  }

  /** `place`: where on a drawing, in its own units. */
  async click(place?: { x: number; y: number }): Promise<void> {
    const one = await until(() => {
      const found = this.now();
      if ((found as HTMLButtonElement).disabled) throw new Error(`${this.what} cannot be pressed`);
      return found;
    });
    if (!place) return user.click(one);
    const at = { bubbles: true, clientX: place.x, clientY: place.y };
    for (const kind of ["pointerdown", "pointerup", "click"]) one.dispatchEvent(new MouseEvent(kind, at));
  }
  async fill(text: string): Promise<void> {
    const one = (await this.there()) as HTMLInputElement;
    if (one.disabled || one.readOnly) throw new Error(`${this.what} cannot be typed into`);
    one.focus();
    const kind = one.tagName === "TEXTAREA" ? HTMLTextAreaElement : HTMLInputElement;
    Object.getOwnPropertyDescriptor(kind.prototype, "value")?.set?.call(one, text);
    one.dispatchEvent(new InputEvent("input", { bubbles: true, data: text }));
    one.dispatchEvent(new Event("change", { bubbles: true }));
    await Promise.resolve();
  }
  async press(key: string): Promise<void> {
    (await this.there()).focus();
    await press(key);
  }
  async focus(): Promise<void> {
    (await this.there()).focus();
  }
  async choose(option: string): Promise<void> {
    const one = (await this.there()) as HTMLSelectElement;
    await until(() => [...one.options].some((each) => each.value === option || each.text === option));
    await user.selectOptions(one, option);
  }
  async file(name: string, content: string | Uint8Array<ArrayBuffer>, type = ""): Promise<void> {
    const one = (await this.there()) as HTMLInputElement;
    Object.defineProperty(one, "files", { value: [new File([content], name, { type })], configurable: true });
    one.dispatchEvent(new Event("change", { bubbles: true }));
  }

  says(words: Words): Promise<HTMLElement> {
    return until(() => {
      const one = this.now();
      if (!holds(one.textContent ?? "", words))
        throw new Error(`${this.what} says ${squeezed(one.textContent)}\ninstead of ${words}`);
      return one;
    });
  }
  saysNot(words: Words): Promise<unknown> {
    return until(() => {
      if (holds(this.now().textContent ?? "", words)) throw new Error(`${this.what} says ${words}`);
    });
  }
  /** One of them is there, or more. */
  some(): Promise<unknown> {
    return until(() => {
      if (!this.count) throw new Error(`none: ${this.what}`);
    });
  }
  each(): Found[] {
    return this.all().map((_, i) => this.nth(i));
  }
  disabled(): Promise<unknown> {
    return until(() => (this.now() as HTMLButtonElement).disabled);
  }
  /** Chosen, of a radio or a box. */
  checked(): Promise<unknown> {
    return until(() => {
      const one = this.now();
      return (
        (one as HTMLInputElement).checked ||
        one.getAttribute("aria-checked") === "true" ||
        one.dataset["state"] === "checked"
      );
    });
  }
  gone(): Promise<unknown> {
    return this.counts(0);
  }
  counts(wanted: number): Promise<unknown> {
    return until(() => {
      if (this.count !== wanted) throw new Error(`${this.count} instead of ${wanted}: ${this.what}`);
    });
  }
  /** An input's value. */
  reads(wanted: string): Promise<unknown> {
    return until(() => {
      if (this.value !== wanted) throw new Error(`${this.what} reads ${this.value} instead of ${wanted}`);
    });
  }
  has(name: string, wanted: string): Promise<unknown> {
    return until(() => {
      if (this.attr(name) !== wanted)
        throw new Error(`${this.what}: ${name} is ${this.attr(name)} instead of ${wanted}`);
    });
  }
  focused(): Promise<unknown> {
    return until(() => {
      if (document.activeElement !== this.now())
        throw new Error(`${this.what} has not the focus, but ${document.activeElement?.outerHTML.slice(0, 120)}`);
    });
  }
}

export const page = new Found(() => [document.body], "the page");

/** A key or several at once, as Playwright names them: "Enter", "Control+k". */
export async function press(key: string): Promise<void> {
  const keys = key.split("+");
  const named = keys.pop() as string;
  const last = named === "Space" ? " " : named;
  const down = keys.map((each) => `{${each}>}`).join("");
  const up = keys.map((each) => `{/${each}}`).join("");
  await user.keyboard(
    `${down}${last.length > 1 ? `{${last}}` : last === "{" || last === "[" ? last + last : last}${up}`,
  );
}
/** What is typed where the focus is. */
export async function type(text: string): Promise<void> {
  if (text) await user.keyboard(text.replace(/[[{]/g, "$&$&"));
}

let served: Served | null = null;
let device: Device | null = null;
export const there = (): Device => device as Device;

type Opened = { who?: string | null; wide?: number };

let root: Root | null = null;
function put(): void {
  root?.unmount();
  root = null;
  document.body.replaceChildren();
}
function drawn(path: string): void {
  put();
  history.replaceState(null, "", path);
  const place = document.body.appendChild(document.createElement("div"));
  root = createRoot(place);
  root.render(createElement(App, { client: newClient() }));
}

/** The demo of this test's own, opened at an address by somebody who is signed in; a second time by another person. */
export async function open(path = "/angles", { who = "Tam Brandreth", wide = 1280 }: Opened = {}): Promise<void> {
  served ??= await start();
  (window as unknown as { happyDOM: { setURL: (url: string) => void } }).happyDOM.setURL(`${served.address}/`);
  setScreen(wide);
  device = new Device(served.address);
  onDevice(device);
  if (who) await device.signIn(who);
  drawn(path);
  if (path === "/" && who) await until(() => page.css("[data-instrument]").count > 0);
}
/** The address is entered anew: the page is drawn from the beginning, what is on the device stays. */
export function goTo(path: string): void {
  drawn(path);
}
export const reload = (): void => drawn(location.pathname + location.search);
/** The browser's own core is not there: the server is asked. */
export const withoutCore = (): void => void vi.spyOn(engine, "ready", "get").mockReturnValue(false);
/** A place is gone to as by a link. */
export function visit(path: string): void {
  history.pushState(null, "", path);
  dispatchEvent(new PopStateEvent("popstate"));
}
export const at = (wanted: RegExp | string): Promise<unknown> =>
  until(() => {
    const now = location.pathname + location.search;
    if (typeof wanted === "string" ? now !== wanted : !wanted.test(now))
      throw new Error(`at ${now} instead of ${wanted}`);
  });
export function signal(online: boolean): void {
  there().online = online;
  Object.defineProperty(navigator, "onLine", { value: online, configurable: true });
  dispatchEvent(new Event(online ? "online" : "offline"));
}
/** Another device of somebody, without a page. */
export async function otherDevice(who: string): Promise<Device> {
  served ??= await start();
  const other = new Device(served.address);
  await other.signIn(who);
  return other;
}
export const data = (): string => (served as Served).data;

/** Before a test: the clock stands, as the demo's does. */
export const setUp = (): void => {
  vi.setSystemTime(NOW);
};
/** After a test: nothing of it is left. */
export async function tearDown(): Promise<void> {
  vi.restoreAllMocks();
  put();
  onDevice(null);
  device = null;
  await forgetDevice();
  if (served) await stop(served.pid);
  served = null;
  Object.defineProperty(navigator, "onLine", { value: true, configurable: true });
  vi.useRealTimers();
}

export const address = (): string => location.pathname + location.search;
/** The record the page shows, as the server has it. */
export const recordHere = (): Promise<any> => there().get(`records/${location.pathname.split("/").at(-1)}`);
export const title = page.role("heading", undefined, { level: 1 });
/** The device loses what it held: the browser cleared its storage. */
export async function forgetDevice(): Promise<void> {
  localStorage.clear();
  sessionStorage.clear();
  for (const { name } of await indexedDB.databases()) {
    const database = await new Promise<IDBDatabase>((done, failed) => {
      const opened = indexedDB.open(name ?? "");
      opened.onsuccess = () => done(opened.result);
      opened.onerror = () => failed(opened.error);
    });
    for (const store of database.objectStoreNames) database.transaction(store, "readwrite").objectStore(store).clear();
    database.close();
  }
}
/** What an address of the server answers to this device. */
export const fetched = (path: string): Promise<Response> => there().fetch(path);
/** What a link hands over: the file's name, its text, and where it came from. */
export async function downloaded(link: Found): Promise<{ name: string; text: string; from: string }> {
  await link.there();
  const from = link.attr("href");
  const answer = await fetched(from);
  expect(answer.status, from).toBe(200);
  const name = answer.headers.get("content-disposition")?.match(/filename="?([^";]+)/)?.[1] ?? link.attr("download");
  return { name, text: await answer.text(), from };
}
/** Files that the page makes itself and hands over, in their order. */
export function keptFiles(): { next: () => Promise<{ name: string; text: string }> } {
  const handed: HTMLAnchorElement[] = [];
  vi.spyOn(HTMLAnchorElement.prototype, "click").mockImplementation(function (this: HTMLAnchorElement) {
    handed.push(this);
  });
  const next = async () => {
    const link = await until(() => {
      const first = handed.shift();
      if (!first) throw new Error("no file was handed over");
      return first;
    });
    return { name: link.download, text: (await resolveObjectURL(link.href)?.text()) ?? "" };
  };
  return { next };
}
/** A finger goes down on a thing, moves and is lifted: places in the drawing's own units. */
export async function dragged(thing: Found, ...places: [x: number, y: number][]): Promise<void> {
  const one = await thing.there();
  const [first = [0, 0]] = places;
  const send = (kind: string, [x, y]: [number, number], buttons: number) =>
    one.dispatchEvent(new PointerEvent(kind, { bubbles: true, clientX: x, clientY: y, pointerId: 1, buttons }));
  send("pointerdown", first, 1);
  for (const place of places.slice(1)) send("pointermove", place, 1);
  send("pointerup", places.at(-1) ?? first, 0);
  await new Promise((done) => setTimeout(done));
}
