// A page's surroundings without a browser: happy-dom, with Node's own ways to ask and to hold bytes.
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
  "WebSocket",
  "performance",
] as const;

declare global {
  /** Node's own, and the device the page is on. */
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
    /** As a browser's: an address without a host is of the page's own. */
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
