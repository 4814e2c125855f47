// What a device keeps of the fleet to reckon without signal: asked for once, then only what changed since.
import { openDB } from "idb";
import { type Schemas, NoSignal, api, data } from "../api/client";

export type Known = Schemas["KnownInstrument"];
type Held = { mark: number; judgedRaw: boolean; fleet: Known[] };
const NOTHING: Held = { mark: 0, judgedRaw: false, fleet: [] };
const KEY = "fleet";
const shelf = () => openDB("naveta-known", 1, { upgrade: (db) => void db.createObjectStore("known") });

async function read(): Promise<Held> {
  try {
    return ((await (await shelf()).get("known", KEY)) as Held | undefined) ?? NOTHING;
  } catch {
    return NOTHING;
  }
}

/** A device without room goes on with what it has in memory. */
async function write(held: Held): Promise<void> {
  await shelf().then((db) => db.put("known", held, KEY)).catch(() => undefined);
}

/** Nobody is signed in: nothing of the firm stays in the clear. */
export async function forgetKnown(): Promise<void> {
  await shelf().then((db) => db.delete("known", KEY)).catch(() => undefined);
}

/** What was held, with one more answer; a house that begins its count afresh replaces it all. */
export function withAnswer(held: Held, answer: { mark: number; judged_raw: boolean; fleet: Known[] }): Held {
  const kept = answer.mark < held.mark ? [] : held.fleet;
  const fleet = new Map([...kept, ...answer.fleet].map((one) => [one.tag, one]));
  return { mark: answer.mark, judgedRaw: answer.judged_raw, fleet: [...fleet.values()] };
}

/** Every instrument as the house last told it; without signal as it was held. */
export async function fetchKnown(): Promise<Known[]> {
  let held = await read();
  try {
    for (;;) {
      const answer = await data(api.GET("/api/device", { params: { query: { since: held.mark } } }));
      held = withAnswer(held, answer);
      if (!answer.more) break;
    }
    await write(held);
  } catch (error) {
    if (!(error instanceof NoSignal) || held.fleet.length === 0) throw error;
  }
  // The firm's own way of judging is one word for all.
  return held.fleet.map((one) => (held.judgedRaw ? { ...one, stated: { ...one.stated, judged_raw: true } } : one));
}
