// Test environment of pages: happy-dom, with Node's fetch, files and streams.
import { builtinEnvironments, type Environment } from "vitest/runtime";

const OWN = [
  "fetch",
  "Request",
  "Response",
  "Headers",
  "AbortController",
  "AbortSignal",
  "Blob",
  "File",
  "FormData",
  "ReadableStream",
  "URL",
  "URLSearchParams",
  "TextDecoder",
  "TextEncoder",
  "performance",
] as const;

declare global {
  /** Node's originals, and the device that sends the page's requests. */
  var native: { fetch: typeof fetch; Request: typeof Request };
  var here: { fetch: typeof fetch } | null;
}

const environment: Environment = {
  name: "page",
  viteEnvironment: "ssr",
  async setup(global: typeof globalThis, options) {
    const held = OWN.map((name) => [name, global[name]] as const);
    const kept = await builtinEnvironments["happy-dom"].setup(global, options);
    for (const [name, value] of held)
      Object.defineProperty(global, name, { value, configurable: true, writable: true });
    const { fetch, Request } = global;
    /** Resolves relative addresses against the page, as browsers do. */
    class PageRequest extends Request {
      constructor(input: string | URL | Request, init?: RequestInit) {
        super(input instanceof Request ? input : new URL(String(input), global.location.href), init);
      }
    }
    Object.assign(global, { native: { fetch, Request }, here: null, Request: PageRequest });
    Object.assign(global, {
      fetch: (input: string | URL | Request, init?: RequestInit) =>
        global.here ? global.here.fetch(input, init) : Promise.reject(new TypeError("No page is open.")),
    });
    return kept;
  },
};

export default environment;
