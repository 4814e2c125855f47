// How the firm writes: the word for a levelling staff, the mark before decimals. The core says what is replaced by what;
// here it is put into every sentence last, so that records and figures are the same everywhere.
import type { Session } from "./client";

export type Writing = Session["writing"];

let words: Record<string, string> = {};
let pattern: RegExp | null = null;
let mark = ".";
/** Members of an answer that hold sentences or figures in words: a name, or the member it stands in and a name. */
let sentences = new Set<string>();
/** Members that hold what somebody typed, or data that is sent back as it is. */
let verbatim = new Set<string>();

export function setWriting(writing: Writing | undefined): void {
  words = writing?.replacements ?? {};
  mark = writing?.decimal_mark ?? ".";
  sentences = new Set(writing?.sentences);
  verbatim = new Set(writing?.verbatim);
  pattern = Object.keys(words).length ? new RegExp(`\\b(${Object.keys(words).join("|")})\\b`, "g") : null;
}

/** A sentence or figure as the firm writes it. What a person typed is not passed through here. */
export function written(text: string): string {
  const worded = pattern ? text.replace(pattern, (word) => words[word] ?? word) : text;
  return mark === "." ? worded : worded.replace(/(\d)\.(?=\d)/g, `$1${mark}`);
}

/** A number with so many decimals, as the firm writes it. */
export const fixed = (value: number, decimals: number): string => written(value.toFixed(decimals));

/** An answer of server or core with its sentences as the firm writes them. */
export function answerWritten<T>(answer: T): T {
  return pattern || mark !== "." ? (walked(answer, "", "") as T) : answer;
}

function walked(value: unknown, within: string, name: string): unknown {
  if (typeof value === "string") return sentences.has(name) || sentences.has(`${within}.${name}`) ? written(value) : value;
  if (Array.isArray(value)) return value.map((each) => walked(each, within, name));
  if (value === null || typeof value !== "object") return value;
  return Object.fromEntries(Object.entries(value).map(([member, each]) => [member, verbatim.has(member) ? each : walked(each, name, member)]));
}
