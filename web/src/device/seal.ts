// What is kept on a shared tablet is sealed with the key of whose it is (AES-GCM, the browser's own). The keys come
// with the session and go when a person signs out: the next one cannot read what was left unsent.

export type Sealed = { iv: Uint8Array<ArrayBuffer>; box: ArrayBuffer };
export type Keys = { own: string; firm: string };
export type Whose = keyof Keys;

let held: { text: Keys; keys: Promise<Record<Whose, CryptoKey>> } | null = null;
const listeners = new Set<() => void>();

/** Whether this browser can seal at all: only on https and on this machine. */
export const canSeal = (): boolean => typeof crypto !== "undefined" && crypto.subtle !== undefined;

async function imported(hex: string): Promise<CryptoKey> {
  const bytes = new Uint8Array((hex.match(/../g) ?? []).map((pair) => parseInt(pair, 16)));
  return crypto.subtle.importKey("raw", bytes, "AES-GCM", false, ["encrypt", "decrypt"]);
}

/** Take the keys of whoever signed in, or let go of them. */
export function holdKeys(text: Keys | null): void {
  if (!canSeal() || (text && held && text.own === held.text.own)) return;
  held = text && {
    text,
    keys: Promise.all([imported(text.own), imported(text.firm)]).then(([own, firm]) => ({ own, firm })),
  };
  for (const listener of listeners) listener();
}

export function onKeys(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Sealed, or null where there is no key to seal with. */
export async function seal(value: unknown, whose: Whose): Promise<Sealed | null> {
  if (!held) return null;
  const key = (await held.keys)[whose];
  const iv = crypto.getRandomValues(new Uint8Array(12));
  const box = await crypto.subtle.encrypt(
    { name: "AES-GCM", iv },
    key,
    new TextEncoder().encode(JSON.stringify(value)),
  );
  return { iv, box };
}

/** What was sealed, or null for whoever has not the key. */
export async function unseal<T>(sealed: Sealed, whose: Whose): Promise<T | null> {
  if (!held) return null;
  try {
    const key = (await held.keys)[whose];
    return JSON.parse(
      new TextDecoder().decode(await crypto.subtle.decrypt({ name: "AES-GCM", iv: sealed.iv }, key, sealed.box)),
    ) as T;
  } catch {
    return null;
  }
}
