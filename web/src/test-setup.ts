import "fake-indexeddb/auto";
import { webcrypto } from "node:crypto";

// jsdom brings no way to seal.
if (!globalThis.crypto.subtle) Object.defineProperty(globalThis, "crypto", { value: webcrypto });
