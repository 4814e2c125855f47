// What is kept on this device: drafts and the outbox, in IndexedDB, sealed with the key of whose they are.
import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { Fault, Result } from "../api/client";
import type { Draft } from "../documents/draft";
import { inOrder } from "../documents/order";
import { stepsOf } from "../documents/readiness";
import { arrived, forget, note, unwritten } from "./journal";
import { type Sealed, type Whose, onKeys, seal, unseal } from "./seal";

/** Something finished that has still to reach the server. */
export type OutboxItem = {
  id: string;
  owner: string;
  method: "PUT" | "POST";
  path: string;
  body: unknown;
  /** What it is, for the person: "Two-peg test of LV-07". */
  title: string;
  instrument: string;
  madeAt: string;
  /** Counts up on this device: the order in which work was made. */
  order: number;
  state: "waiting" | "refused";
  problem: { status: number; title: string; faults: Fault[] } | null;
  /** What this device made of it, when it could. */
  device_result: { document: unknown; result: Result; history_entry: Record<string, unknown> | null } | null;
};

/** As it lies on the local store: who may open it in the clear, the rest sealed (or in the clear where nothing can be sealed). */
type Stored<T> = { id: string; owner: string; whose: Whose; sealed: Sealed | null; clear: T | null };

interface LocalStore extends DBSchema {
  drafts: { key: string; value: Stored<Draft> };
  outbox: { key: string; value: Stored<OutboxItem> };
}

let opened: Promise<IDBPDatabase<LocalStore>> | null = null;

function store(): Promise<IDBPDatabase<LocalStore>> {
  opened ??= openDB<LocalStore>("naveta", 1, {
    upgrade(db) {
      db.createObjectStore("drafts", { keyPath: "id" });
      db.createObjectStore("outbox", { keyPath: "id" });
    },
  });
  return opened;
}

const listeners = new Set<() => void>();
export function onStoreChange(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}
function changed(): void {
  for (const listener of listeners) listener();
}
onKeys(changed);

async function stored<T extends { id: string; owner: string }>(value: T, whose: Whose): Promise<Stored<T>> {
  const sealed = await seal(value, whose);
  return { id: value.id, owner: value.owner, whose, sealed, clear: sealed ? null : value };
}

async function open<T>(each: Stored<T>): Promise<T | null> {
  return each.sealed ? unseal<T>(each.sealed, each.whose) : each.clear;
}

async function openAll<T>(all: Stored<T>[]): Promise<T[]> {
  const values = await Promise.all(all.map(open));
  return values.filter((value): value is Awaited<T> & T => value !== null);
}

/** The device has no room left: said where it happens, since a sheet that is not kept can be lost. */
export class NoRoom extends Error {}

async function created<T>(write: () => Promise<T>): Promise<T> {
  try {
    return await write();
  } catch (error) {
    if (error instanceof DOMException && error.name === "QuotaExceededError") throw new NoRoom("This device is full.");
    throw error;
  }
}

/** A draft is its owner's; once left for a chief it is the firm's. */
const whoseDraft = (draft: Draft): Whose => (draft.left ? "firm" : "own");

export async function storeDraft(draft: Draft): Promise<void> {
  const mark = note(draft);
  const value = await stored(draft, whoseDraft(draft));
  await created(async () => (await store()).put("drafts", value));
  arrived(draft.id, mark);
  changed();
}

/** Every draft on the device that can be opened, the last keystrokes included. */
async function allDrafts(): Promise<Draft[]> {
  const found = new Map((await openAll(await (await store()).getAll("drafts"))).map((each) => [each.id, each]));
  for (const late of unwritten()) found.set(late.id, late);
  return [...found.values()];
}

/** Write what stands in the journal: before a person signs out nothing of theirs lies in the clear. */
export async function flush(): Promise<void> {
  for (const late of unwritten()) await storeDraft(late);
}

export async function findDraft(id: string): Promise<Draft | undefined> {
  return (await allDrafts()).find((allDraft) => allDraft.id === id);
}

export async function dropDraft(id: string): Promise<void> {
  forget(id);
  await (await store()).delete("drafts", id);
  changed();
}

/** Own drafts, and for those who may save also what trainees left for them; latest touched first. */
export async function drafts(owner: string, maySave = false): Promise<Draft[]> {
  const all = await allDrafts();
  return all
    .filter((each) => each.owner === owner || (maySave && each.left))
    .sort((a, b) => inOrder(b.changedAt, a.changedAt));
}

/** Put a finished thing in the outbox; with a draft, both change together. */
/** The open round of a person that holds this record, if there is one. */
export async function roundHolding(owner: string, record: string): Promise<string | undefined> {
  const open = await drafts(owner);
  return open.find((each) => each.kind === "pre-survey" && stepsOf(each).some((step) => step.record === record))?.id;
}

export async function post(item: OutboxItem, draftId?: string): Promise<void> {
  const value = await stored(item, "own");
  await created(async () => {
    const tx = (await store()).transaction(["outbox", "drafts"], "readwrite");
    await tx.objectStore("outbox").put(value);
    if (draftId) await tx.objectStore("drafts").delete(draftId);
    await tx.done;
  });
  if (draftId) forget(draftId);
  changed();
}

/** Own outbox items, oldest first. */
export async function items(owner: string): Promise<OutboxItem[]> {
  const all = await (await store()).getAll("outbox");
  const mine = await openAll(all.filter((each) => each.owner === owner));
  return mine.sort((a, b) => a.order - b.order);
}

export async function storeOutboxItem(item: OutboxItem): Promise<void> {
  const value = await stored(item, "own");
  await (await store()).put("outbox", value);
  changed();
}

export async function dropOutboxItem(id: string): Promise<void> {
  await (await store()).delete("outbox", id);
  changed();
}

/** Take a refused or waiting check back as a draft. */
export async function takeBack(item: OutboxItem, draft: Draft): Promise<void> {
  const value = await stored(draft, whoseDraft(draft));
  const tx = (await store()).transaction(["outbox", "drafts"], "readwrite");
  await tx.objectStore("outbox").delete(item.id);
  await tx.objectStore("drafts").put(value);
  await tx.done;
  changed();
}

/** How much unsent work others have on this device: given without being opened. */
export async function unsentOfOthers(owner: string): Promise<number> {
  return (await (await store()).getAll("outbox")).filter((each) => each.owner !== owner).length;
}
