// What a device keeps of the fleet to calculate without signal: asked for once, then only what changed since.
import { openDB } from "idb";
import { type Schemas, NoSignal, api, data } from "../api/client";

export type Known = Schemas["InstrumentHistory"];
type Held = { cursor: number; judgedRaw: boolean; fleet: Known[] };
const NOTHING: Held = { cursor: 0, judgedRaw: false, fleet: [] };
const KEY = "fleet";
const store = () => openDB("naveta-known", 1, { upgrade: (db) => void db.createObjectStore("known") });

async function read(): Promise<Held> {
  try {
    return ((await (await store()).get("known", KEY)) as Held | undefined) ?? NOTHING;
  } catch {
    return NOTHING;
  }
}

/** A device without room goes on with what it has in memory. */
async function write(held: Held): Promise<void> {
  await store()
    .then((db) => db.put("known", held, KEY))
    .catch(() => undefined);
}

/** Nobody is signed in: nothing of the firm stays in the clear. */
export async function forgetFleet(): Promise<void> {
  await store()
    .then((db) => db.delete("known", KEY))
    .catch(() => undefined);
}

/** What was held, with one more answer; a firm that begins its count again replaces it all. */
export function withAnswer(held: Held, answer: { cursor: number; judged_raw: boolean; fleet: Known[] }): Held {
  const rows = answer.cursor < held.cursor ? [] : held.fleet;
  const fleet = new Map([...rows, ...answer.fleet].map((each) => [each.tag, each]));
  return { cursor: answer.cursor, judgedRaw: answer.judged_raw, fleet: [...fleet.values()] };
}

/** Every instrument as the server last given it; without signal as it was held. */
export async function fetchFleet(): Promise<Known[]> {
  let held = await read();
  try {
    for (;;) {
      const answer = await data(api.GET("/api/device", { params: { query: { since: held.cursor } } }));
      held = withAnswer(held, answer);
      if (!answer.more) break;
    }
    await write(held);
  } catch (error) {
    if (!(error instanceof NoSignal) || held.fleet.length === 0) throw error;
  }
  // The firm's own way of judging is one word for all.
  return held.fleet.map((each) => (held.judgedRaw ? { ...each, stated: { ...each.stated, judged_raw: true } } : each));
}
