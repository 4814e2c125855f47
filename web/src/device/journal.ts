// The last keystrokes, written at once: a page that is closed or reloaded may cut off a write to IndexedDB that is
// still under way. A line here lives until its write has arrived.
import type { Draft } from "../documents/draft";

const PREFIX = "draft-";
let count = 0;
type Line = { mark: number; draft: Draft };

/** Note a draft before it is written. Gives the mark by which the line is struck out again. */
export function note(draft: Draft): number {
  count += 1;
  try {
    localStorage.setItem(PREFIX + draft.id, JSON.stringify({ mark: count, draft } satisfies Line));
  } catch {
    // No room: IndexedDB alone has to do.
  }
  return count;
}

function line(key: string): Line | null {
  const text = localStorage.getItem(key);
  return text ? (JSON.parse(text) as Line) : null;
}

/** The write has arrived: the line goes, unless a later keystroke stands there already. */
export function arrived(id: string, mark: number): void {
  if (line(PREFIX + id)?.mark === mark) localStorage.removeItem(PREFIX + id);
}

export function forget(id: string): void {
  localStorage.removeItem(PREFIX + id);
}

/** Drafts whose last write may not have arrived. */
export function unwritten(): Draft[] {
  const keys = Array.from({ length: localStorage.length }, (_, i) => localStorage.key(i) ?? "").filter((key) =>
    key.startsWith(PREFIX),
  );
  return keys.flatMap((key) => line(key)?.draft ?? []);
}
