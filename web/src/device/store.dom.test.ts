import { NoSignal, Problem } from "../api/client";
import * as client from "../api/client";
import { drafts, dropOutboxItem, findDraft, storeDraft, items, takeBack } from "./device";
import { unwritten } from "./journal";
import { type Draft, begin, nowWithOffset, toSend } from "../documents/draft";
import { draftOf, flush, postCheck, postEvent } from "./outbox";

const sight = (distance: string, ...readings: string[]) => ({ distance, readings });

function finished(owner = "tam"): Draft {
  const draft = begin({ kind: "two-peg", instrument: "LV-07", owner });
  draft.document.observations.setups = [
    { a: sight("30", "1.8851", ""), b: sight("30", "1.4020") },
    { a: sight("56", "1.8868"), b: sight("4", " ", "1.4000") },
  ];
  return draft;
}

afterEach(async () => {
  vi.restoreAllMocks();
  for (const owner of ["tam", "wren"]) for (const item of await items(owner)) await dropOutboxItem(item.id);
});

describe("a draft", () => {
  it("carries the device's own offset", () => {
    const date = new Date("2027-03-02T06:40:00Z");
    vi.spyOn(date, "getTimezoneOffset").mockReturnValue(-330);
    expect(nowWithOffset(date)).toBe("2027-03-02T12:10:00+05:30");
    vi.spyOn(date, "getTimezoneOffset").mockReturnValue(210);
    expect(nowWithOffset(date)).toBe("2027-03-02T03:10:00-03:30");
  });

  it("keeps the last keystroke when the page goes before the write has arrived", async () => {
    const draft = finished("ines");
    await storeDraft(draft);
    const typed = { ...draft, remark: "late", stage: "as-left" as const };
    void storeDraft(typed); // the page is gone before this resolves
    expect(unwritten().map((each) => each.stage)).toContain("as-left");
    expect((await findDraft(draft.id))?.stage).toBe("as-left");
    await storeDraft(draft);
    expect(unwritten()).toEqual([]);
    expect((await findDraft(draft.id))?.stage).toBe("as-found");
  });

  it("left by a trainee is seen by those who may save, and by nobody else", async () => {
    const draft = { ...finished("jory"), left: true };
    await storeDraft(draft);
    expect((await drafts("tam", true)).map((draft) => draft.id)).toContain(draft.id);
    expect((await drafts("tam")).map((draft) => draft.id)).not.toContain(draft.id);
  });

  it("is found again, by its owner only in lists", async () => {
    const draft = finished("wren");
    await storeDraft(draft);
    expect((await findDraft(draft.id))?.instrument).toBe("LV-07");
    expect((await drafts("wren")).map((draft) => draft.id)).toContain(draft.id);
    expect(await drafts("tam")).toEqual([]);
  });
});

describe("the outbox", () => {
  it("sends in order, once, and the draft is gone with the posting", async () => {
    const draft = finished();
    await storeDraft(draft);
    const spy = vi.spyOn(client, "send").mockResolvedValue({ id: draft.id });
    await postCheck(draft, "Two-peg test of LV-07");
    await postEvent("tam", { instrument: "LV-07", event: "knock", at: nowWithOffset() }, "Knock");
    expect(await findDraft(draft.id)).toBeUndefined();
    const [each, two] = await Promise.all([flush("tam"), flush("tam")]);
    expect(each).toBe(two);
    expect(spy.mock.calls.map((call) => call[1].replace(/[0-9a-f-]{36}/, "ID"))).toEqual([
      "/api/checks/ID",
      "/api/events/ID",
    ]);
    expect(await items("tam")).toEqual([]);
  });

  it("waits without signal and on a fault of the server", async () => {
    await postCheck(finished(), "check");
    vi.spyOn(client, "send")
      .mockRejectedValueOnce(new NoSignal())
      .mockRejectedValueOnce(new Problem(500, "our-fault", "Ours."));
    expect(await flush("tam")).toMatchObject({ sent: 0, waiting: 1 });
    expect(await flush("tam")).toMatchObject({ sent: 0, waiting: 1 });
    expect((await items("tam"))[0]?.state).toBe("waiting");
  });

  it("says when the session has ended, and keeps everything", async () => {
    await postCheck(finished(), "check");
    vi.spyOn(client, "send").mockRejectedValue(new Problem(401, "signed-out", "Sign in first."));
    expect(await flush("tam")).toMatchObject({ signedOut: true, waiting: 1 });
  });

  it("keeps a refusal with its faults and goes on with the rest", async () => {
    await postCheck(finished(), "first");
    await postCheck(finished(), "second");
    const fault = { path: "observations.setups", where: "the set-ups", given: "x", wanted: "y" };
    vi.spyOn(client, "send")
      .mockRejectedValueOnce(new Problem(422, "faults", "One thing is wrong.", [fault]))
      .mockResolvedValueOnce({});
    expect(await flush("tam")).toMatchObject({ sent: 1 });
    const [left] = await items("tam");
    expect(left).toMatchObject({ title: "first", state: "refused", problem: { status: 422, faults: [fault] } });
  });

  it("sends nobody else's work", async () => {
    await postCheck(finished("wren"), "hers");
    const spy = vi.spyOn(client, "send");
    await flush("tam");
    expect(spy).not.toHaveBeenCalled();
  });

  it("gives a check back as a draft under a new id", async () => {
    const draft = finished();
    await postCheck(draft, "check");
    const item = (await items("tam"))[0];
    if (!item) throw new Error("no outbox item");
    const again = draftOf(item);
    expect(again.id).not.toBe(draft.id);
    expect(again.document).toEqual(toSend(draft.document));
    await takeBack(item, again);
    expect(await items("tam")).toEqual([]);
    expect(await findDraft(again.id)).toBeTruthy();
  });
});
