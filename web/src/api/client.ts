// The one client: typed from the contract, carries the token, turns problem+json into a Problem.
import { answerWritten, bound, written } from "./writing";
import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Session = Schemas["SessionOut"];
export type InstrumentRow = Schemas["InstrumentRow"];
export type Instrument = Schemas["InstrumentOut"];
export type RecordRow = Schemas["RecordRow"];
export type RecordOut = Schemas["RecordOut"];
export type Result = Schemas["Result"];
export type Preview = Schemas["Preview"];
export type Picture = Schemas["PegPicture"];
export type Adjusting = Schemas["Adjusting"];
export type Fault = Schemas["Fault"];
export type Kind = Schemas["KindOut"];
export type Series = Schemas["SeriesOut"];
export type ImpactReview = Schemas["ImpactReviewOut"];
export type AffectedWork = Schemas["AffectedWork"];
export type Guide = Schemas["Guide"];
export type SetUpPreview = Schemas["SetUpPreview"];
export type ReadinessPreview = Schemas["ReadinessPreview"];
export type OrientationPreview = Schemas["OrientationPreview"];
export type Plan = Schemas["SitePlan"];
export type SetUpMethod = Schemas["MethodOffer"];
export type SetUpMethods = Schemas["SetUpMethods"];
type Foreseen = {
  bubble: { bearing_deg: number; offset_mm: number; at_wall: boolean; in_ring: boolean };
  spot: { bearing_deg: number; distance_mm: number } | null;
};
/** What a move would do: the advice `what-if`. */
export type WhatIf = {
  result: { now: Foreseen | null; then: Foreseen | null; spot_moves_mm: number | null };
  text: string[];
};
export type Grade = Result["verdict"]["grade"];

/** An answer that is not a success, in the server's one shape. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    title: string,
    faults: Fault[] = [],
  ) {
    super(bound(written(title)));
    this.title = this.message;
    this.faults = answerWritten(faults);
  }

  readonly title: string;
  readonly faults: Fault[];
}

/** No answer came at all. */
export class NoSignal extends Error {
  constructor() {
    super("No signal.");
  }
}

let token = "";
export function carryToken(value: string): void {
  token = value;
}

let era = 0;
/** Somebody has signed in: what was asked before and is refused only now says nothing about this session. */
export function sessionBegan(): void {
  era += 1;
}

type SignedOut = () => void;
let onSignedOut: SignedOut = () => undefined;
export function whenSignedOut(listener: SignedOut): void {
  onSignedOut = listener;
}

let asOf: string | null = null;
const asOfListeners = new Set<() => void>();

/** The oldest moment shown answers are from; null while they come from the server itself. */
export function storedAt(): string | null {
  return asOf;
}
export function onStoredAt(listener: () => void): () => void {
  asOfListeners.add(listener);
  return () => asOfListeners.delete(listener);
}

function answer(stored: string | null): void {
  const next = stored === null ? null : asOf !== null && asOf < stored ? asOf : stored;
  if (next === asOf) return;
  asOf = next;
  for (const listener of asOfListeners) listener();
}

async function guarded(request: Request): Promise<Response> {
  if (request.method !== "GET") request.headers.set("X-CSRFToken", token);
  const query = era;
  let response: Response;
  try {
    response = await fetch(request);
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    throw new NoSignal();
  }
  if (response.ok) {
    answer(response.headers.get("X-Naveta-Stored-At"));
    return response;
  }
  if (response.status === 503 && response.headers.get("X-Naveta") === "no-signal") throw new NoSignal();
  const problem = await problemOf(response);
  if (problem.status === 401 && problem.code === "signed-out" && query === era) onSignedOut();
  throw problem;
}

async function problemOf(response: Response): Promise<Problem> {
  const body = await response.json().catch(() => null);
  return new Problem(
    response.status,
    body?.code ?? "unknown",
    body?.title ?? "The server gave no reason.",
    body?.faults ?? [],
  );
}

export const api = createClient<paths>({ baseUrl: "", fetch: guarded });

/** Any call with a body the contract leaves open (documents are read raw by the core's parser). */
export async function send<T>(method: string, path: string, body: unknown, signal?: AbortSignal): Promise<T> {
  const asIs = typeof body === "string" || body instanceof ArrayBuffer || body instanceof Blob;
  const text = asIs ? body : JSON.stringify(body);
  const headers = { "Content-Type": body instanceof Blob ? "application/octet-stream" : "application/json" };
  const response = await guarded(
    new Request(path, { method, ...(method === "GET" ? {} : { body: text }), headers, signal: signal ?? null }),
  );
  return asWritten((await response.json()) as T, path);
}

/** A call whose answer comes bit by bit; `body` a file sent as it is. */
export async function sendForStream(
  method: string,
  path: string,
  body: Blob | null,
): Promise<ReadableStream<Uint8Array>> {
  const headers = { "Content-Type": body ? "application/octet-stream" : "application/json" };
  const sent = method === "GET" ? {} : { body: body ?? "{}" };
  const response = await guarded(new Request(path, { method, headers, ...sent }));
  if (!response.body) throw new NoSignal();
  return response.body;
}

/** What is a file or a document goes through as it is; sentences are put as the firm writes them. */
const asWritten = <T>(answer: T, path: string): T =>
  /\/(csv|documents|read)\b/.test(path) ? answer : answerWritten(answer);

/** The data of a call, for query functions. */
export async function data<T>(call: Promise<{ data?: T; response?: Response }>): Promise<T> {
  const answer = await call;
  return asWritten(answer.data as T, answer.response?.url ?? "");
}
