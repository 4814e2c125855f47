import { begin } from "../documents/draft";
import { clockOff, clockWords, measureClock } from "./clock";
import { drafts, dropDraft, dropOutboxItem, findDraft, storeDraft, items, flush, unsentOfOthers } from "./device";
import { note, unwritten } from "./journal";
import { postEvent } from "./outbox";
import { holdKeys, seal, unseal } from "./seal";

const FIRM = "ff".repeat(32);
const TAM = { own: "11".repeat(32), firm: FIRM };
const WREN = { own: "22".repeat(32), firm: FIRM };
const draft = (owner: string, left = false) =>
  begin({ kind: "two-peg", instrument: "LV-07", owner, left, why: "only for my eyes" });

async function shelves(): Promise<string> {
  const open = indexedDB.open("naveta");
  const db = await new Promise<IDBDatabase>((done) => (open.onsuccess = () => done(open.result)));
  const all = await Promise.all(
    ["drafts", "outbox"].map(
      (name) =>
        new Promise<unknown[]>((done) => {
          const query = db.transaction(name).objectStore(name).getAll();
          query.onsuccess = () => done(query.result as unknown[]);
        }),
    ),
  );
  db.close();
  return JSON.stringify(all.flat(), (_, value: unknown) =>
    value instanceof ArrayBuffer ? new TextDecoder("latin1").decode(value) : value,
  );
}

afterEach(() => holdKeys(null));

it("seals so that only the same key opens, and never twice alike", async () => {
  expect(await seal("x", "own")).toBeNull();
  holdKeys(TAM);
  const [each, two] = [await seal({ reading: "1.8851" }, "own"), await seal({ reading: "1.8851" }, "own")];
  if (!each || !two) throw new Error("nothing was sealed");
  expect(Buffer.from(each.box).equals(Buffer.from(two.box))).toBe(false);
  expect(await unseal(each, "own")).toEqual({ reading: "1.8851" });
  holdKeys(null);
  expect(await unseal(each, "own")).toBeNull();
  holdKeys(WREN);
  expect(await unseal(each, "own")).toBeNull();
  expect(await unseal(each, "firm")).toBeNull();
});

it("leaves unsent work on the device, unreadable to the next person, whole for its owner", async () => {
  holdKeys(TAM);
  const mine = draft("tam");
  await storeDraft(mine);
  const item = await postEvent(
    "tam",
    { instrument: "LV-07", event: "knock", at: "2027-03-02T06:40:00+00:00", note: "fell off the wall" },
    "Knock",
  );
  holdKeys(null);
  expect(await findDraft(mine.id)).toBeUndefined();
  holdKeys(WREN);
  expect(await findDraft(mine.id)).toBeUndefined();
  expect(await items("tam")).toEqual([]);
  expect(await unsentOfOthers("wren")).toBe(1);
  const raw = await shelves();
  expect(raw).not.toContain("fell off the wall");
  expect(raw).not.toContain("only for my eyes");
  holdKeys(null);
  holdKeys(TAM);
  expect((await findDraft(mine.id))?.why).toBe("only for my eyes");
  expect((await items("tam"))[0]?.body).toMatchObject({ note: "fell off the wall" });
  await dropDraft(mine.id);
  await dropOutboxItem(item);
});

it("lets a chief open what a trainee left, and nothing else of the trainee's", async () => {
  holdKeys(TAM);
  const [left, stored] = [draft("jory", true), draft("jory")];
  await storeDraft(left);
  await storeDraft(stored);
  holdKeys(null);
  holdKeys(WREN);
  expect((await drafts("wren", true)).map((draft) => draft.id)).toEqual([left.id]);
  expect(await drafts("wren")).toEqual([]);
  await dropDraft(left.id);
  await dropDraft(stored.id);
});

it("lets nothing lie in the clear once a person signs out", async () => {
  holdKeys(TAM);
  const late = draft("tam");
  note(late);
  expect(unwritten()).toHaveLength(1);
  await flush();
  expect(unwritten()).toEqual([]);
  expect((await findDraft(late.id))?.id).toBe(late.id);
  await dropDraft(late.id);
});

it("measures the clock against the server's and says only what matters", () => {
  measureClock(new Date("2027-03-02T09:40:00Z"), new Date("2027-03-02T06:40:00Z"));
  expect(clockOff()).toBe(3 * 3600);
  expect(clockWords()).toBe("3 hours behind");
  expect(clockWords(-20 * 60)).toBe("20 minutes ahead");
  expect(clockWords(120)).toBeNull();
  expect(clockWords(null)).toBeNull();
});
