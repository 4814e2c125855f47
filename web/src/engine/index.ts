// The one way to the computation: the browser's own core when it is ready, the server otherwise. Both give the same
// answers. The web parses no number and holds no factor, limit or sentence of advice.
import {
  type Adjusting,
  type Guide,
  NoSignal,
  type Preview,
  type Result,
  type Schemas,
  type SetUpMethods,
  send,
} from "../api/client";
import { type CheckDocument, type Length, nowWithOffset } from "./document";
import { EngineGone, engine } from "./engine";
import { instrumentContext } from "./instrumentContext";

type Question = Record<string, unknown>;

/**
 * Ask the engine; when it is not there the server; when neither, wait for an engine that is starting.
 * `question` null means that only the server can know.
 */
async function ask<T>(question: Question | null, server: () => Promise<T>): Promise<T> {
  if (question && engine.ready) {
    try {
      return await engine.ask<T>(question);
    } catch (error) {
      if (!(error instanceof EngineGone)) throw error;
    }
  }
  try {
    return await server();
  } catch (error) {
    if (!(error instanceof NoSignal) || !question || engine.state !== "booting") throw error;
    try {
      await engine.whenReady();
      return await engine.ask<T>(question);
    } catch (later) {
      throw later instanceof EngineGone ? error : later;
    }
  }
}

type Any = { kind: string };

/** Where somebody is in a set-up and what to do now; `step` asks for another step than the one at hand. */
export async function guide(
  instrument: string,
  document: Any,
  step: string | null,
  signal?: AbortSignal,
): Promise<Guide> {
  const context = instrumentContext(instrument);
  const question = context && { verb: "guide", document, at: nowWithOffset(), step, ...context };
  const answer = await ask<Guide>(question, () =>
    send("POST", "/api/set-up/guide", { instrument, document, step }, signal),
  );
  if (signal?.aborted) throw new DOMException("overtaken", "AbortError");
  return answer;
}

/** What can be said already of a document of any kind; `signal` drops an answer that has been overtaken. */
export async function preview<T = Preview>(instrument: string | null, document: Any, signal?: AbortSignal): Promise<T> {
  const context = instrument ? instrumentContext(instrument) : {};
  const question = context && { verb: "preview", document, at: nowWithOffset(), ...context };
  const answer = await ask<T>(question, () => send("POST", "/api/preview", { instrument, document }, signal));
  if (signal?.aborted) throw new DOMException("overtaken", "AbortError");
  return answer;
}

/** A check's document as one of its methods begins it. */
export function beginDocument(kind: string, method: string, length: Length, angle: string): Promise<CheckDocument> {
  return ask({ verb: "begin", kind, method, length, angle }, () =>
    send("POST", `/api/kinds/${kind}/begin`, { method, length, angle }),
  );
}

/** A check's document by another method or in another unit, with what was typed. */
export function takeMethod(document: CheckDocument, method: string, length: Length): Promise<CheckDocument> {
  return ask({ verb: "take-method", document, method, length }, () =>
    send("POST", "/api/documents/take-method", { instrument: null, document, method, length }),
  );
}

/** A check's document with everything that is read still to come once more. */
export function repeatDocument(document: CheckDocument): Promise<CheckDocument> {
  return ask({ verb: "repeat", document }, () => send("POST", "/api/documents/repeat", { instrument: null, document }));
}

/** The same check again after adjusting; `result` are the figures it came to as found. */
export function asLeftDocument(document: unknown, result: Record<string, unknown>): Promise<CheckDocument> {
  return ask({ verb: "as-left", document, result }, () =>
    send("POST", "/api/documents/as-left", { instrument: null, document, result }),
  );
}

/** A stored document of any kind as somebody would type it. */
export function fromFile<D extends Any = CheckDocument>(document: unknown): Promise<D> {
  return ask<D>({ verb: "from-file", document }, () =>
    send("POST", "/api/documents/from-file", { instrument: null, document }),
  );
}

/** Known names that may be meant by one that is not known. */
export async function nearMisses(name: string, known: string[]): Promise<{ name: string; why: string }[]> {
  return ask(
    { verb: "near-misses", name, known },
    async () =>
      (
        await send<{ near: { name: string; why: string }[] }>(
          "GET",
          `/api/points?q=${encodeURIComponent(name)}`,
          undefined,
        )
      ).near,
  );
}

/** One question for advice, answered by the mechanism. */
export function advise<T>(question: Record<string, unknown>): Promise<T> {
  return ask<T>({ verb: "advise", question }, () => send("POST", "/api/set-up/advise", { question }));
}

/** How an instrument can be set up, on a tribrach of the fleet where one is named; the suitable methods first. */
export function setUpMethods(instrument: string, tribrach: string | null = null): Promise<SetUpMethods> {
  const context = instrumentContext(instrument);
  const below = tribrach ? instrumentContext(tribrach) : null;
  const question = context &&
    (!tribrach || below) && {
      verb: "set-up-methods",
      ...context,
      ...(below ? { tribrach: below.instrument.stated } : {}),
    };
  const on = tribrach ? `&tribrach=${encodeURIComponent(tribrach)}` : "";
  return ask<SetUpMethods>(question || null, () =>
    send("GET", `/api/set-up/methods?instrument=${encodeURIComponent(instrument)}${on}`, undefined),
  );
}

export type DeviceResult = {
  document: unknown;
  result: Result;
  fingerprint: string;
  history_entry: Record<string, unknown> | null;
};

/** A finished check calculated on this device, with the time it is saved under; null when this device cannot. */
export async function compute(
  instrument: string,
  document: CheckDocument,
  at: string,
  stage: string,
): Promise<DeviceResult | null> {
  const context = instrumentContext(instrument);
  if (!context || !engine.ready) return null;
  try {
    return await engine.ask<DeviceResult>({ verb: "reduce", document, at, stage, ...context });
  } catch {
    return null;
  }
}

/** Where the reticle has to go, and what each reading taken since leaves to be done. `document` is a record's own. */
export function adjusting(instrument: string, document: unknown, readsNow: string[]): Promise<Adjusting> {
  return ask({ verb: "adjusting", document, reads_now: readsNow }, () =>
    send("POST", "/api/checks/adjusting", { instrument, document, reads_now: readsNow }),
  );
}

/** The same of a sheet that belongs to no record. */
export const practiceAdjusting = (document: CheckDocument): Promise<Adjusting> =>
  ask({ verb: "adjusting", document, reads_now: [] }, () =>
    send("POST", "/api/checks/adjusting", { instrument: null, document, reads_now: [] }),
  );

export const isTable = (file: File): boolean => /\.(csv|tsv|txt)$/i.test(file.name);

/** A document from a file of a kind, a table or the whole document, as somebody would type it. */
export async function openFile<D extends Any = CheckDocument>(
  kind: string,
  file: File,
): Promise<{ document: D; entry: "csv" | "file" }> {
  if (isTable(file)) return openTable<D>(kind, await textOf(file));
  return { document: await fromFile<D>(await readDocument(kind, await file.arrayBuffer())), entry: "file" };
}

/** A document from the text of a table in our own columns. */
export async function openTable<D extends Any = CheckDocument>(
  kind: string,
  text: string,
): Promise<{ document: D; entry: "csv" }> {
  return { document: await fromFile<D>(await readTable(kind, text)), entry: "csv" };
}

/** The text of a table of whatever program: UTF-8, UTF-16 by its mark, else the usual single bytes of Western Europe (a degree sign in them is no UTF-8). */
export async function textOf(file: File): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  const marked =
    bytes[0] === 0xff && bytes[1] === 0xfe ? "utf-16le" : bytes[0] === 0xfe && bytes[1] === 0xff ? "utf-16be" : "utf-8";
  try {
    return new TextDecoder(marked, { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder("windows-1252").decode(bytes);
  }
}

export type ColumnMap = Schemas["ColumnMap"];
export type ColumnLook = Schemas["ColumnLook"];

/** A table of somebody's own as it is understood now; without a map the core suggests one, `recut` suggests its columns again. */
export function lookAtTable(kind: string, text: string, map: ColumnMap | null, recut = false): Promise<ColumnLook> {
  const question = { kind, text, column_map: map, recut };
  return ask({ verb: "look-at-table", ...question }, () => send("POST", "/api/tables/look", question));
}

function readTable(kind: string, text: string): Promise<unknown> {
  return ask({ verb: "read-table", kind, text }, () => send("POST", `/api/kinds/${kind}/csv`, { text }));
}

/** A document file's bytes: the core's parser says what is wrong with them. Bytes that are no UTF-8 only the server reads. */
function readDocument(kind: string, bytes: ArrayBuffer): Promise<unknown> {
  let text: string | null = null;
  try {
    text = new TextDecoder("utf-8", { fatal: true, ignoreBOM: true }).decode(bytes);
  } catch {
    text = null;
  }
  return ask(text === null ? null : { verb: "read-document", kind, text }, () =>
    send("POST", `/api/kinds/${kind}/read`, bytes),
  );
}

/** A document's readings as a table. */
export async function writeTable(kind: string, document: Any): Promise<string> {
  const answer = await ask<{ text: string }>({ verb: "write-table", kind, document }, () =>
    send("POST", `/api/kinds/${kind}/csv/write`, { instrument: null, document }),
  );
  return answer.text;
}

/** Given whenever the browser's own core has become ready: what could not be answered before can be asked again. */
export function onReady(listener: () => void): () => void {
  return engine.onChange(() => {
    if (engine.ready) listener();
  });
}

/** The terms of the trade: what each means and what else it is called. */
export function glossary(): Promise<Schemas["Term"][]> {
  return ask({ verb: "glossary" }, () => send("GET", "/api/glossary", null));
}
