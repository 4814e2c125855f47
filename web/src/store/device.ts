// What is kept on this device: drafts and the outbox, in IndexedDB.
import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { Fault } from "../api/client";
import type { Draft } from "../sheet/draft";
import { arrived, forget, note, unwritten } from "./journal";

/** Something finished that has still to reach the house. */
export type Parcel = {
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
};

interface Shelf extends DBSchema {
  drafts: { key: string; value: Draft };
  outbox: { key: string; value: Parcel };
}

let opened: Promise<IDBPDatabase<Shelf>> | null = null;

function shelf(): Promise<IDBPDatabase<Shelf>> {
  opened ??= openDB<Shelf>("naveta", 1, {
    upgrade(db) {
      db.createObjectStore("drafts", { keyPath: "id" });
      db.createObjectStore("outbox", { keyPath: "id" });
    },
  });
  return opened;
}

const listeners = new Set<() => void>();
export function onShelfChange(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}
function changed(): void {
  for (const listener of listeners) listener();
}

export async function keepDraft(draft: Draft): Promise<void> {
  const mark = note(draft);
  await (await shelf()).put("drafts", draft);
  arrived(draft.id, mark);
  changed();
}

/** Every draft on the device, the last keystrokes included. */
async function allDrafts(): Promise<Draft[]> {
  const kept = new Map((await (await shelf()).getAll("drafts")).map((one) => [one.id, one]));
  for (const late of unwritten()) kept.set(late.id, late);
  return [...kept.values()];
}

export async function findDraft(id: string): Promise<Draft | undefined> {
  return (await allDrafts()).find((one) => one.id === id);
}

export async function dropDraft(id: string): Promise<void> {
  forget(id);
  await (await shelf()).delete("drafts", id);
  changed();
}

/** Own drafts, and for those who may save also what trainees left for them; latest touched first. */
export async function drafts(owner: string, maySave = false): Promise<Draft[]> {
  const all = await allDrafts();
  return all.filter((one) => one.owner === owner || (maySave && one.left)).sort((a, b) => b.changedAt.localeCompare(a.changedAt));
}

/** Put a finished thing in the outbox; with a draft, both change together. */
export async function post(parcel: Parcel, draftId?: string): Promise<void> {
  const tx = (await shelf()).transaction(["outbox", "drafts"], "readwrite");
  await tx.objectStore("outbox").put(parcel);
  if (draftId) await tx.objectStore("drafts").delete(draftId);
  await tx.done;
  if (draftId) forget(draftId);
  changed();
}

/** Own parcels, oldest first. */
export async function parcels(owner: string): Promise<Parcel[]> {
  const all = await (await shelf()).getAll("outbox");
  return all.filter((one) => one.owner === owner).sort((a, b) => a.order - b.order);
}

export async function keepParcel(parcel: Parcel): Promise<void> {
  await (await shelf()).put("outbox", parcel);
  changed();
}

export async function dropParcel(id: string): Promise<void> {
  await (await shelf()).delete("outbox", id);
  changed();
}

/** Take a refused or waiting check back as a draft. */
export async function takeBack(parcel: Parcel, draft: Draft): Promise<void> {
  const tx = (await shelf()).transaction(["outbox", "drafts"], "readwrite");
  await tx.objectStore("outbox").delete(parcel.id);
  await tx.objectStore("drafts").put(draft);
  await tx.done;
  changed();
}
