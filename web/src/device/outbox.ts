// The outbox: finished work goes on its own, once, in the order in which it was made.
import { NoSignal, Problem, type Result, send } from "../api/client";
import { clockOff } from "./clock";
import { type OutboxItem, dropOutboxItem, storeOutboxItem, items, post } from "./device";
import { type CheckDocument, type Draft, begin, nowWithOffset, toSend } from "../documents/draft";

const REPORTED_ANYWAY = new Set([503, 507]);

export type Sent = { sent: number; waiting: number; signedOut: boolean; last: unknown };

let running: Promise<Sent> | null = null;

/** Send what waits. Several calls at once become one. Stops at the first that finds no signal or no session. */
export function flush(owner: string): Promise<Sent> {
  running ??= sendAll(owner).finally(() => {
    running = null;
  });
  return running;
}

async function sendAll(owner: string): Promise<Sent> {
  const outcome: Sent = { sent: 0, waiting: 0, signedOut: false, last: null };
  const waiting = (await items(owner)).filter((item) => item.state === "waiting");
  for (const [index, item] of waiting.entries()) {
    try {
      outcome.last = await send(item.method, item.path, item.body);
      await dropOutboxItem(item.id);
      outcome.sent += 1;
    } catch (error) {
      if (await refused(item, error)) continue;
      outcome.waiting = waiting.length - index;
      outcome.signedOut = error instanceof Problem && error.status === 401;
      break;
    }
  }
  return outcome;
}

/** A refusal stays with its sentence; no signal, no session and a fault of the server only mean: later. */
async function refused(item: OutboxItem, error: unknown): Promise<boolean> {
  if (error instanceof NoSignal || !(error instanceof Problem)) return false;
  const problem = { status: error.status, title: error.title, faults: error.faults };
  if (error.status === 401 || error.status === 429 || error.status >= 500 || error.code === "no-token") {
    // It remains waiting, with the server's own reason beside it: a full disk there, two clocks apart.
    if (REPORTED_ANYWAY.has(error.status) && item.problem?.title !== error.title)
      await storeOutboxItem({ ...item, problem });
    return false;
  }
  await storeOutboxItem({ ...item, state: "refused", problem });
  return true;
}

/** What this device made of a check before it was sent. */
export type DeviceCheck = {
  at: string;
  document: unknown;
  result: Result;
  fingerprint: string;
  history_entry: Record<string, unknown> | null;
};

/** Put a finished check in the outbox, with what this device made of it when it could. */
export function postCheck(draft: Draft, title: string, created: DeviceCheck | null = null): Promise<void> {
  const body = {
    instrument: draft.instrument,
    stage: draft.stage,
    pair: draft.pair,
    amends: draft.amends,
    why: draft.why,
    observed_at: created?.at ?? nowWithOffset(),
    observed_by: draft.observedBy,
    entry: draft.entry,
    device_result: created && {
      core_version: created.result.core_version,
      fingerprint: created.fingerprint,
      grade: created.result.verdict.grade,
    },
    clock_off_s: clockOff(),
    document: toSend(draft.document),
  };
  const device_result = created && {
    document: created.document,
    result: created.result,
    history_entry: created.history_entry,
  };
  return post(
    { ...item(draft.id, draft.owner, "PUT", `/api/checks/${draft.id}`, body, title, draft.instrument), device_result },
    draft.id,
  );
}

export { nowWithOffset };

export type Happening = {
  instrument: string;
  event: string;
  at: string;
  note?: string;
  crew?: string;
  place?: string;
  record?: string;
  lines?: { work: string; remark: string }[];
  steps?: string[];
  check?: string;
  until?: string;
  temperature_c?: string;
  case_looked?: boolean;
  missing?: string[];
  ready?: string[];
  resets?: string[];
  cost?: string;
  days_cost?: string;
  certificate?: string;
};

/** Put an event in the outbox; gives the id its record will have. */
export async function postEvent(owner: string, happening: Happening, title: string): Promise<string> {
  const id = crypto.randomUUID();
  await post(
    item(id, owner, "PUT", `/api/events/${id}`, { ...happening, clock_off_s: clockOff() }, title, happening.instrument),
  );
  return id;
}

/** A finished lesson of practice. */
export async function postRun(
  owner: string,
  run: {
    lesson: string;
    title: string;
    seed: number;
    seconds: number;
    advised: boolean;
    gestures?: unknown[];
    instrument?: unknown;
  },
): Promise<void> {
  const id = crypto.randomUUID();
  const { title, ...rest } = run;
  await post(
    item(id, owner, "PUT", `/api/practice/runs/${id}`, { ...rest, at: nowWithOffset() }, `Practice: ${title}`, ""),
  );
}

let lastOrder = 0;
/** The clock, but never twice the same and never backwards within a page. */
function nextOrder(): number {
  lastOrder = Math.max(Date.now(), lastOrder + 1);
  return lastOrder;
}

function item(
  id: string,
  owner: string,
  method: "PUT" | "POST",
  path: string,
  body: unknown,
  title: string,
  instrument: string,
): OutboxItem {
  return {
    id,
    owner,
    method,
    path,
    body,
    title,
    instrument,
    madeAt: new Date().toISOString(),
    order: nextOrder(),
    state: "waiting",
    problem: null,
    device_result: null,
  };
}

/** A check in the outbox as a draft again, under a new id: the old one may have arrived. */
export function draftOf(item: OutboxItem): Draft {
  const body = item.body as Pick<Draft, "instrument" | "stage" | "pair" | "amends" | "why" | "entry"> & {
    document: CheckDocument;
    observed_by: string | null;
  };
  const { instrument, stage, pair, amends, why, entry, document } = body;
  return begin({
    kind: document.kind,
    instrument,
    stage,
    pair,
    amends,
    why,
    entry,
    owner: item.owner,
    observedBy: body.observed_by,
    document,
  });
}
