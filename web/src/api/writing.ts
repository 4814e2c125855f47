// How the firm writes: the word for a levelling staff, the mark before decimals. The core says what is replaced by what;
// here it is put into every sentence last, so that records and figures are the same everywhere.
import type { components } from "./schema";

export type Writing = components["schemas"]["SessionOut"]["writing"];

let words: Record<string, string> = {};
let pattern: RegExp | null = null;
let mark = ".";
let distances: { pattern: RegExp; perMetre: number } | null = null;
/** Members with directions that are the same for every document: their distances are put into the firm's unit. */
let guidance = new Set<string>();
/** Members of an answer that hold sentences or figures in words: a name, or the member it stands in and a name. */
let sentences = new Set<string>();
/** Members that hold what somebody typed, or data that is sent back as it is. */
let verbatim = new Set<string>();

export function setWriting(writing: Writing | undefined): void {
  words = writing?.replacements ?? {};
  mark = writing?.decimal_mark ?? ".";
  sentences = new Set(writing?.sentences);
  verbatim = new Set(writing?.verbatim);
  guidance = new Set(writing?.guidance);
  distances =
    writing && writing.length_unit !== "m"
      ? { pattern: new RegExp(writing.distances, "g"), perMetre: writing.per_metre }
      : null;
  pattern = Object.keys(words).length ? new RegExp(`\\b(${Object.keys(words).join("|")})\\b`, "g") : null;
}

/** A sentence or figure as the firm writes it. What a person typed is not passed through here. */
export function written(text: string): string {
  const worded = pattern ? text.replace(pattern, (word) => words[word] ?? word) : text;
  return mark === "." ? worded : worded.replace(/(\d)\.(?=\d)/g, `$1${mark}`);
}

/** Directions with their distances in the firm's unit, to two figures: "40 to 50 m" is "130 to 160 ft". */
function guided(text: string): string {
  if (!distances) return text;
  const { pattern: lengths, perMetre } = distances;
  const far = (metres: string | undefined) =>
    metres ? String(Number((Number(metres) * perMetre).toPrecision(2))) : "";
  return text.replace(
    lengths,
    (_, from: string, to?: string, most?: string) => `${far(from)}${to ?? ""}${far(most)} ft`,
  );
}

/** A number with so many decimals, as the firm writes it. */
export const fixed = (value: number, decimals: number): string => written(value.toFixed(decimals));

/** Keeps a figure with its sign and unit on one line. */
export const bound = (text: string): string =>
  text.replace(/± (?=\d)/g, "±\u00a0").replace(FIGURE_AND_UNIT, "$1\u00a0");
const FIGURE_AND_UNIT = /(\d) (?=(?:mm|cm|m|km|ft|ppm|div|gon|°C|min|s)(?![\w°]))/g;

/** An answer of server or core with its sentences as the firm writes them. The answer itself is changed: it may be long, and nobody else has it. */
export function answerWritten<T>(answer: T): T {
  return sentences.size ? (walked(answer, "", "") as T) : answer;
}

function walked(value: unknown, within: string, name: string): unknown {
  if (typeof value === "string") return sentence(value, within, name);
  if (value === null || typeof value !== "object") return value;
  const list = Array.isArray(value);
  const members = value as Record<string, unknown>;
  for (const member of Object.keys(members)) {
    if (list) members[member] = walked(members[member], within, name);
    else if (!verbatim.has(member)) members[member] = walked(members[member], name, member);
  }
  return value;
}

function sentence(text: string, within: string, name: string): string {
  const within_name = `${within}.${name}`;
  if (!sentences.has(name) && !sentences.has(within_name)) return text;
  return bound(written(guidance.has(name) || guidance.has(within_name) ? guided(text) : text));
}
