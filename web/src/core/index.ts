// The one door to the computation. Today the server answers; the browser's own core will answer here too.
// The web parses no number and holds no factor, limit or sentence of advice.
import { type Adjusting, type Preview, send } from "../api/client";
import type { CheckDocument } from "../sheet/draft";

/** What can be said already of a document; `signal` drops an answer that has been overtaken. */
export function preview(instrument: string | null, document: CheckDocument, signal?: AbortSignal): Promise<Preview> {
  return send("POST", "/api/checks/preview", { instrument, document }, signal);
}

/** Where the reticle has to go, and what each reading taken since leaves to be done. */
export function adjusting(instrument: string, document: unknown, readsNow: string[]): Promise<Adjusting> {
  return send("POST", "/api/checks/adjusting", { instrument, document, reads_now: readsNow });
}

/** A table's text as a document. */
export function readTable(kind: string, text: string): Promise<CheckDocument> {
  return send("POST", `/api/kinds/${kind}/csv`, { text });
}

/** A document file's bytes, as they are: the core's parser says what is wrong with them. */
export function readDocument(kind: string, bytes: ArrayBuffer): Promise<CheckDocument> {
  return send("POST", `/api/kinds/${kind}/read`, bytes);
}

/** A document's readings as a table. */
export async function writeTable(kind: string, document: CheckDocument): Promise<string> {
  const answer = await send<{ text: string }>("POST", `/api/kinds/${kind}/csv/write`, { instrument: null, document });
  return answer.text;
}
