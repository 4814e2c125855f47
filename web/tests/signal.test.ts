// No signal, an ended session, a full or emptied device: nothing typed is lost, and what is saved arrives once.
import { engine } from "../src/engine/engine";
import { goTo, open, page, recordHere, reload, signal, there, title, until, withoutCore, forgetDevice } from "./page";
import { begin, goodTest, complete, finding, fresh, saved, sheet, switchUser } from "./sheet";

it("a session that ends stores what is typed", async () => {
  withoutCore();
  const level = await fresh("Merrow");
  await open();
  await begin(level);
  await sheet("1.8851", "1.4020", "1.8852");
  await page.css("[data-fresh=true]").some();
  there().forget();
  await page.css("#row-observations-setups-1-b-readings-0").fill("1.4001");
  const dialog = page.role("dialog", "Sign in again");
  await dialog.says("Your entries are kept");
  await dialog.button("Tam Brandreth").click();
  await dialog.counts(0);
  await page.css("#row-observations-setups-1-b-readings-0").reads("1.4001");
  await page.css("#row-observations-setups-1-b-readings-0").fill("1.4002");
  await complete();
});

it("a trainee leaves it for the chief who saves it", async () => {
  const level = await fresh("Merrow");
  await open("/angles", { who: "Jory Pell" });
  await begin(level);
  await sheet("1.8851;1.8852", "1.4020;1.4021", "1.8841;1.8842", "1.4012;1.4011");
  await complete();
  await page.button("Save as found").has("aria-disabled", "true");
  await page.text("A crew chief saves it; the record names you both.").there();
  await page.button("Leave it for my crew chief").click();
  await switchUser();
  await page.button("Tam Brandreth").click();
  await page.role("link", "Bench").click();
  await page.label("Open checks").says("Left by jory");
  await page.role("link", "Go on").first().click();
  await finding("use");
  await page.button("Save as found").click();
  await saved();
  await page.text("Jory Pell, saved by Tam Brandreth.").there();
});

it("a refused check stays with its reason and opens again", async () => {
  const level = await fresh("Merrow");
  await open();
  await goodTest(level);
  vi.setSystemTime(new Date("2020-01-01T00:00:00Z"));
  await page.button("Save as found").click();
  const refused = page.css("[data-outbox=refused]");
  await refused.says("is this device's clock right?");
  await refused.button("Open again").click();
  await page.css("#row-observations-setups-1-b-readings-0").reads("1.4021");
});

it("while two clocks disagree it waits with the reason", async () => {
  const level = await fresh("Merrow");
  await open();
  await goodTest(level);
  vi.setSystemTime(new Date("2029-01-01T00:00:00Z"));
  await page.button("Save as found").click();
  await page.role("status").with("waiting to be sent").says("one of the two clocks is wrong");
});

// Two devices that made the same id, or a tampered outbox: the first stays, the second is given so.
it("the same id with other content is refused", async () => {
  const level = await fresh("Merrow");
  await open();
  await goodTest(level);
  await page.button("Save as found").click();
  await saved();
  const stored = await recordHere();
  const document = Object.fromEntries(["kind", "units", "observations"].map((key) => [key, stored.document[key]]));
  document.observations.setups[0].a.readings = ["1.8"];
  const answer = await there().send("PUT", `checks/${stored.id}`, {
    instrument: level,
    observed_at: stored.observed_at,
    document,
  });
  expect([answer.status, answer.body.code]).toEqual([409, "other-content"]);
  reload();
  await page.label("Readings").says("1.8851");
});

// The browser's own core: a whole check with the network off, agreement with the server, and everything that can go wrong.
it("a browser that cannot asks the server", async () => {
  withoutCore();
  await open();
  await begin("LV-03");
  await sheet("1.8851", "1.4020", "1.8868", "1.4000");
  await complete();
  expect(engine.ready).toBe(false);
});

it("a full device says so while it is typed", async () => {
  await open();
  await begin("LV-03");
  vi.spyOn(IDBObjectStore.prototype, "put").mockImplementation(() => {
    throw new DOMException("full", "QuotaExceededError");
  });
  await sheet("1.8851", "1.4020", "1.8852", "1.4021");
  await page.css("[data-no-room]").says("Device storage is full");
  await complete();
  await page.button("Save as found").click();
  await page.text("your readings are still here").there();
  await page.css("#row-observations-setups-1-b-readings-0").reads("1.4021");
});

it("storage that was cleared is said", async () => {
  await open();
  await begin("LV-03");
  await sheet("1.8851");
  await forgetDevice();
  goTo("/bench/11111111-1111-4111-8111-111111111111");
  await title.says("not on this device");
  await page.text("storage was cleared").there();
});

it.each([
  [500, "our-fault", "waiting"],
  [409, "other-content", "refused"],
])("an answer of %i leaves everything here", async (status, code, kept) => {
  const level = await fresh("Merrow");
  await open();
  if (kept === "waiting") await until(() => engine.ready);
  const body = { type: "about:blank", title: "Of this id, with other content.", status, code, faults: [] };
  there().instead = ({ url }) => (/\/api\/checks\/[^/]*-/.test(url) ? Response.json(body, { status }) : null);
  await goodTest(level);
  await page.button("Save as found").click();
  if (kept === "waiting") {
    await page.css("[data-waits=waiting]").says("Stored on this device");
    await page.role("link", "View outbox").click();
  }
  const item = page.css(`[data-outbox=${kept}]`);
  await item.says(kept === "waiting" ? "Line of sight" : "with other content");
  there().instead = null;
  if (kept === "waiting") {
    await page.button("Send now").click();
    await page.css("[data-outbox]").counts(0);
  } else {
    await item.button("Open again").click();
    await page.css("#row-observations-setups-1-b-readings-0").reads("1.4021");
  }
});

it("a session that ended while away sends after signing in", async () => {
  withoutCore();
  const level = await fresh("Merrow");
  await open();
  await goodTest(level);
  signal(false);
  await page.button("Save as found").click();
  await page.css("[data-outbox=waiting]").there();
  there().forget();
  signal(true);
  const dialog = page.role("dialog", "Sign in again");
  await dialog.there();
  await dialog.button("Tam Brandreth").click();
  await page.css("[data-outbox]").counts(0);
});
