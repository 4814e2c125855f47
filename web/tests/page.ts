// Use of a page in tests: elements by role, label and text, input, and waiting for what the page shows.
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
/** Ten seconds of a usual computer. */
const PATIENCE_MS = 10_000;
const user = userEvent.setup({ delay: 0, pointerEventsCheck: 0 });

/** Elements with these ancestors are not found by role. */
const UNSEEN = "[aria-hidden=true], [hidden]";

type Words = string | RegExp;
const squeezed = (text: string | null): string => (text ?? "").replace(/\s+/g, " ").trim();
const holds = (text: string, words: Words): boolean =>
  typeof words === "string"
    ? squeezed(text).toLowerCase().includes(squeezed(words).toLowerCase())
    : words.test(squeezed(text));
const is = (text: string, words: Words, exact: boolean): boolean =>
  exact && typeof words === "string" ? squeezed(text) === squeezed(words) : holds(text, words);

/** Repeats a check until it passes; throws its last error after ten seconds, more on a slow machine. */
export async function until<T>(look: () => T | Promise<T>): Promise<T> {
  const end = performance.now() + PATIENCE_MS * (served?.slower ?? 1);
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

/** A query for elements, evaluated at each use. */
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
  /** The smallest elements with this text. */
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

  /** The only match; throws if there are none or several. */
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
  /** Waits for at least one match. */
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
  /** Waits until a radio or checkbox is checked. */
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
  /** Waits for an input's value. */
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

/** Presses a key or a combination: "Enter", "Control+k". */
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
/** Types into the focused element. */
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

/** Opens the test's demo at an address, signed in. A second call opens it as another person on another device. */
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
/** Renders the app anew at an address; data stored on the device stays. */
export function goTo(path: string): void {
  drawn(path);
}
export const reload = (): void => drawn(location.pathname + location.search);
/** Disables the browser's core: the server calculates. */
export const withoutCore = (): void => void vi.spyOn(engine, "ready", "get").mockReturnValue(false);
/** Navigates without a reload. */
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
/** Another device, signed in, without a page. */
export async function otherDevice(who: string): Promise<Device> {
  served ??= await start();
  const other = new Device(served.address);
  await other.signIn(who);
  return other;
}
export const data = (): string => (served as Served).data;

/** Before a test: stops the clock at the demo's time. */
export const setUp = (): void => {
  vi.setSystemTime(NOW);
};
/** After a test: closes the page, clears the device, stops the server. */
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
/** Fetches the record shown by the page. */
export const recordHere = (): Promise<any> => there().get(`records/${location.pathname.split("/").at(-1)}`);
export const title = page.role("heading", undefined, { level: 1 });
/** Clears all storage of the device. */
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
/** Requests an address of the server from this device. */
export const fetched = (path: string): Promise<Response> => there().fetch(path);
/** Downloads the file of a link: its name, text and address. */
export async function downloaded(link: Found): Promise<{ name: string; text: string; from: string }> {
  await link.there();
  const from = link.attr("href");
  const answer = await fetched(from);
  expect(answer.status, from).toBe(200);
  const name = answer.headers.get("content-disposition")?.match(/filename="?([^";]+)/)?.[1] ?? link.attr("download");
  return { name, text: await answer.text(), from };
}
/** Collects files created by the page, in order. */
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
/** Drags an element along places given in the drawing's units. */
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
