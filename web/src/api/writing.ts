// How the firm writes: the word for a levelling staff, the mark before decimals. The core says what is replaced by what;
// here it is put into every sentence last, so that records and figures are the same everywhere.
import type { Session } from "./client";

export type Writing = Session["writing"];

let words: Record<string, string> = {};
let pattern: RegExp | null = null;
let mark = ".";

export function setWriting(writing: Writing | undefined): void {
  words = writing?.replacements ?? {};
  mark = writing?.decimal_mark ?? ".";
  pattern = Object.keys(words).length ? new RegExp(`\\b(${Object.keys(words).join("|")})\\b`, "g") : null;
}

/** A sentence or figure as the firm writes it. What a person typed is not passed through here. */
export function written(text: string): string {
  const worded = pattern ? text.replace(pattern, (word) => words[word] ?? word) : text;
  return mark === "." ? worded : worded.replace(/(\d)\.(?=\d)/g, `$1${mark}`);
}

/** A number with so many decimals, as the firm writes it. */
export const fixed = (value: number, decimals: number): string => written(value.toFixed(decimals));

/** Members of an answer that hold sentences of the core or figures in words. */
const SENTENCES = new Set(
  "text where wanted title label labels headline lines bring why good_for before_you_start steps look do wrong finding hint limit_text understood source messages row_titles what good cannot meaning tips plus_minus total_text allowed_text about stop_when distance_text error_text along_label centre_label radius_label x_label y_label zero_label unit_label line_text method_title next_title short_title you per text_before note_text caution unit name_text".split(" "),
);
/** Members that hold what somebody typed, or data that is sent back as it is. */
const KEPT_AS_IT_IS = new Set(["document", "observations", "begun", "edits", "stated", "limits", "history", "question", "history_entry"]);

/** An answer of server or core with its sentences as the firm writes them. */
export function answerWritten<T>(answer: T): T {
  return pattern || mark !== "." ? (walked(answer, false) as T) : answer;
}

function walked(value: unknown, sentence: boolean): unknown {
  if (typeof value === "string") return sentence ? written(value) : value;
  if (Array.isArray(value)) return value.map((each) => walked(each, sentence));
  if (value === null || typeof value !== "object") return value;
  return Object.fromEntries(Object.entries(value).map(([name, each]) => [name, KEPT_AS_IT_IS.has(name) ? each : walked(each, SENTENCES.has(name))]));
}
