// Two managers at once, safe keeping, and how the firm writes: rod and comma, feet, terms by any name.
import { at, goTo, open, otherDevice, page, press, there, until, downloaded } from "./page";
import { complete, fresh, sheet } from "./sheet";

it("two managers at once lose nothing", async () => {
  const ines = await otherDevice("Ines Calder");
  const name = "Curlew 4";
  const made = await ines.send("POST", "models", { maker: "Tolvan", name, kind: "tribrach", stated: {}, tips: "" });
  expect(made.status).toBe(201);
  const model = made.body;
  await open(`/settings/models?model=${model.id}`, { who: "Ines Calder" });
  await page.label("Not stated").says("Plummet: whether it has one");
  await page.label("Not stated").says("Number of foot screws");
  await page.label("A note for whoever uses it").fill("check the lock first");
  const facts = {
    maker: "Tolvan",
    name: name,
    stated: {},
    tips: "another note",
    adjusting_tips: {},
    version: model.version,
  };
  expect((await ines.send("PUT", `models/${model.id}`, facts)).status).toBe(200);
  await page.button("Save this model").click();
  await page.css("[data-meanwhile]").says("another note");
  await page.label("A note for whoever uses it").reads("check the lock first");
  await page.button("Save this model").click();
  await page.text(new RegExp(`Saved for every Tolvan ${name}`)).there();
});

it("backup verify export compare", async () => {
  await open("/settings/safe-keeping", { who: "Ines Calder" });
  await page.button("Back up now").click();
  await page.role("heading", "Last backup: less than a day old").there();
  await page.button("Verify all records").click();
  await page.css("[data-verified=true]").says("records are whole");
  await page.button("Export everything").click();
  await page.css("[data-ended]").says("instruments written");
  const written = await downloaded(page.role("region", "Open formats").css("[data-file] a").first());
  expect(written.name.startsWith("export-")).toBe(true);
  const line: string = (await there().get("chain-ends")).text;
  await page.label("Lines of earlier days").fill(line);
  await page.button("Compare").click();
  await page.css("[data-same]").there();
  await page.label("Lines of earlier days").fill(line.replace(line.slice(-10), "0123456789"));
  await page.button("Compare").click();
  await page.css("[data-differs]").says("are not those of that day");
  await page.label("Import everything").file("a.zip", "no zip", "application/zip");
  await page.role("alert").says("This Naveta is not empty");
  const remove = page.role("region", "Open formats").button("Remove");
  await remove.first().click();
  await page.role("dialog").button("Remove").click();
  await page.role("dialog").counts(0);
});

const PLAIN = { staff_word: "staff", decimal_mark: ".", length_unit: "m", angle_unit: "dms" };
it("a firm of rods and commas", async () => {
  const tag = await fresh("Merrow");
  await open("/settings", { who: "Ines Calder" });
  await page.role("radio", "Rod", { exact: true }).click();
  await page.role("radio", "Comma").click();
  const loaded = vi.spyOn(location, "reload").mockImplementation(() => undefined);
  await page.button("Save settings").click();
  await until(() => loaded.mock.calls.length > 0);
  await open(`/bench/new/${tag}/two-peg`);
  await page.role("complementary").says("rod");
  await page.button("Start reading").click();
  await page.css("#row-observations-setups-0-a-readings-0").focus();
  await sheet("14.020");
  const fault = page.css("[data-fault='observations.setups[0].a.readings[0]']");
  await fault.says("14.020");
  await page.css("#row-observations-setups-0-a-readings-0").fill("1.8851");
  await page.css("#row-observations-setups-0-a-readings-0").focus();
  await press("End");
  await sheet("", "1.4020", "1.8868", "1.4000");
  await complete();
  const finding = page.label("Finding").words;
  expect(finding).toMatch(/Line of sight \d+,\d″/);
  expect(finding).not.toMatch(/\d\.\d/);
  await page.text("Calculation").click();
  const everything = page.css("main").words;
  expect(everything).not.toContain("taff");
  const asTyped = ["1.8851", "1.4020", "1.8868", "1.4000"];
  for (const [figure] of everything.matchAll(/\d+\.\d+/g)) expect(asTyped).toContain(figure);
  expect(everything).toContain("1,8851 − 1,4020");
  expect(everything).toContain("od A");
});

it("a firm of feet is asked and answered in feet", async () => {
  const ines = await otherDevice("Ines Calder");
  expect((await ines.send("PUT", "organisation", { ...PLAIN, length_unit: "ft" })).status).toBe(200);
  await open("/forecast");
  await page.label("Backsight, ft").has("placeholder", "100");
  await page.label("Centring, ft").fill("0.01");
  await page.css("[data-budget=position]").says(/within 0\.0\d+\sft/);
  goTo("/bench/plan/TS-03");
  await page.label("Distance, ft").first().fill("100");
  await page.label("Higher by, ft").first().fill("57.735");
  await page.css("[data-planned]").first().says("30° up");
  goTo("/angles");
  await page.label("Diagonal, ft").fill("5");
  await page.label("Right angle by tape").says("should be 5.0000 ft");
  goTo("/points");
  await page.role("columnheader", "Easting, ft").there();
  goTo("/bench/new/TS-03/tracker");
  await page.role("complementary").says("about 330 ft away");
});

it("a term is found by another name and leads to its check", async () => {
  await open();
  // The search comes after the first screen: its key is listened for from then on.
  await until(async () => {
    if (!page.role("dialog").count) await press("?");
    return page.role("dialog").count > 0;
  });
  const search = page.role("searchbox", "Find a check");
  await search.fill("tilting axis");
  await page.css("[data-term]").counts(1);
  await page.css("[data-term='trunnion axis']").says("The horizontal axis the telescope tilts about");
  await search.fill("peg test");
  await page.role("link", "Check Two-peg test").click();
  await page.label("Begin a check").role("searchbox").fill("lv7");
  await page.label("Begin a check").button("LV-07").click();
  await at(/\/bench\/new\/LV-07\/two-peg/);
  await page.button("line of sight").first().click();
  await page.css("[data-term='line of sight']").says("reticle");
});
