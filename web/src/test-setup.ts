import "fake-indexeddb/auto";
import { webcrypto } from "node:crypto";

// A document alone brings no way to seal.
if (!globalThis.crypto.subtle) Object.defineProperty(globalThis, "crypto", { value: webcrypto });
