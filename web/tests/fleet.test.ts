// The fleet: found, chosen and acted on; the palette; an instrument added, held and released.
import { at, goTo, open, page, press, reload, there, title, type } from "./page";
import { fresh } from "./sheet";

it("several are chosen and acted on and a view is kept", async () => {
  const tags = [await fresh("Tessaly"), await fresh("Tessaly")].sort();
  await open("/fleet?kind=robotic-total-station&sort=tag", { who: "Ines Calder" });
  for (const tag of tags) {
    await page.css(`[data-instrument=${tag}]`).focus();
    await press("Space");
  }
  await page.button("Take out for").click();
  await page.role("menuitem", "Thrift crew").click();
  await page.role("dialog").label("Why").fill("New: checked on site.");
  await page.role("dialog").button("Take out").click();
  await page.text("2 instruments taken out.").there();
  for (const tag of tags) {
    expect((await there().get(`instruments/${tag}`)).crew).toEqual("Thrift");
  }
  await page.button("Views").click();
  await page.role("menuitem", "Keep this view").click();
  await page.label("Name").fill("Robotic, by tag");
  await page.button("Keep it").click();
  await page.text("View Robotic, by tag kept.").there();
  goTo("/fleet");
  await page.button("Views").click();
  await page.role("menuitem", "Robotic, by tag", { exact: true }).click();
  await at(/kind=robotic-total-station/);
});

it("the palette finds by what one would type", async () => {
  await open("/");
  await press("/");
  await type("lv7 peg");
  const option = page.role("option", /Two-peg test of LV-07 ?begin/);
  await option.has("data-selected", "true");
  await press("Enter");
  await at(/\/bench\/new\/LV-07\/two-peg/);
  await press("Control+k");
  await type("PC-14");
  await page.role("option", /PC-14/).first().click();
  await at(/\/points\?q=PC-14/);
  await page.css("tbody tr").counts(1);
  await press("Control+k");
  await type("limits");
  await press("Enter");
  await at(/\/settings\/limits/);
});

// The key that opens it moves nothing in it: pressed twice, it once led to the last place of the list.
it("the palettes key pressed twice leaves the first offer chosen", async () => {
  await open("/");
  await press("Control+k");
  const places = page.role("dialog", "Find anything").role("option");
  await places.first().has("data-selected", "true");
  await press("Control+k");
  await places.first().has("data-selected", "true");
  await press("Enter");
  await at("/today");
});

// The kinds of check come after the text was typed: the first offer is chosen then, and Enter takes it.
it("what arrives while one types is chosen by enter", async () => {
  await open("/");
  let arrive = (): void => undefined;
  const held = new Promise<null>((done) => (arrive = () => done(null)));
  const device = there();
  device.instead = ({ url }) =>
    url.endsWith("/api/kinds")
      ? held.then(() => {
          device.instead = null;
          return device.fetch(url);
        })
      : null;
  reload();
  await page.css("[data-instrument]").some();
  await press("/");
  await type("lv7 peg");
  arrive();
  const option = page.role("option", /Two-peg test of LV-07 ?begin/);
  await option.has("data-selected", "true");
  await press("Enter");
  await at(/\/bench\/new\/LV-07\/two-peg/);
});

it("a knock is noted given and taken back", async () => {
  await open("/");
  await page.role("link", "Fleet").click();
  await page.label("Find an instrument").fill("LV-09");
  await page.button("Report what happened").click();
  await page.button("Report it").click();
  await page.text("Choose the instrument first.").there();
  const dialog = page.role("dialog");
  await dialog.button("LV-09").click();
  await dialog.label("Where and how").fill("rolled about in the van");
  await dialog.button("Report it").click();
  const row = page.css("[data-instrument=LV-09]");
  await row.has("data-state", "check-first");
  await page.button("Undo").click();
  await row.has("data-state", "ready");
});

it("search takes a tag typed any way", async () => {
  await open("/");
  await page.role("link", "Fleet").click();
  await page.label("Find an instrument").fill("lv7");
  await page.css("[data-instrument]").counts(1);
  await page.label("Find an instrument").fill("thrift");
  await page.css("[data-instrument=LV-05]").there();
  await page.label("Find an instrument").fill("nothing like it");
  await page.button("Show all").click();
  await page.css("[data-instrument=LV-02]").there();
});

it("hold and release carry their reason and right", async () => {
  const level = await fresh("Merrow");
  await open(`/instruments/${level}`);
  await page.button("Hold", { exact: true }).click();
  await page.button("Put on hold").click();
  await page.text("Enter a few words").there();
  await page.label("Why").fill("focus slips");
  await page.button("Put on hold").click();
  await page.css("[data-standing=hold]").says("focus slips");
  await page.button(/^Release/).has("aria-disabled", "true");
  await open(`/instruments/${level}`, { who: "Ines Calder" });
  await page.button("Release").click();
  await page.label("Why").fill("focus reset and tried");
  await page.button("Release").click();
  await page.css("[data-standing=ready-if]").says("Ines Calder: focus reset and tried");
});

it("the manager adds an instrument of a new model", async () => {
  await open("/fleet", { who: "Ines Calder" });
  await page.button("Add an instrument").click();
  const dialog = page.role("dialog");
  await dialog.label("Tag").fill("level nine");
  await dialog.role("combobox").choose("A new model");
  await dialog.label("Maker").fill("Ondine");
  await dialog.label("Model name").fill("Wherry");
  await dialog.label("Stated accuracy").fill("1.5.2");
  await dialog.button("Add it").click();
  await dialog.css("[data-fault='stated.levelling_accuracy_mm_per_km']").says("one decimal mark");
  await dialog.label("Stated accuracy").fill("1,5");
  await dialog.button("Add it").click();
  await dialog.css("[data-fault=tag]").says("two letters and a number");
  await dialog.label("Tag").fill("lv 21");
  await dialog.button("Add it").click();
  await title.says("LV-21: check first");
  await page.label("Passport").says("1.5 mm per km");
  await page.label("History", { exact: true }).says("No check on record yet");
});

it("the manager adds a base and its checks follow from what is stated", async () => {
  await open("/fleet", { who: "Ines Calder" });
  await page.button("Add an instrument").click();
  const dialog = page.role("dialog");
  await dialog.label("Tag").fill("tb 30");
  await dialog.role("combobox").choose("A new model");
  await dialog.role("radio", "Tribrach", { exact: true }).click();
  await dialog.label("Maker").fill("Tolvan");
  await dialog.label("Model name").fill("Curlew");
  await dialog.role("radio", "Optical").click();
  await dialog.button("Add it").click();
  await at(/\/instruments\/TB-30/);
  const checks = (await there().get("instruments/TB-30")).checks;
  expect(checks).toEqual(["circular-vial", "plummet"]);
});
