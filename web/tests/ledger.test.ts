// The ledger as its users walk it: filters in the address, words, the keyboard, the file, a record computed again.
import { address, at, goTo, open, page, press, reload, there, title, downloaded } from "./page";
import { saved } from "./sheet";

it("a months proof from the ledger to a record computed again", async () => {
  await open("/angles", { who: "Ines Calder" });
  await page.role("navigation", "Places").role("link", "Ledger").click();
  const heading = title;
  await heading.says("records");
  const everything = Number(heading.words.split(" ")[0]);
  expect(everything).toBeGreaterThan(500);
  await page.label("Every grade").choose("adjust");
  await page.label("Every check").choose("two-peg");
  await page.role("searchbox", "Words").fill("lv-07 tam");
  await heading.saysNot(String(everything));
  const rows = page.role("list", "Records").role("listitem");
  await rows.first().says("LV-07");
  expect(address()).toContain("grade=adjust");
  expect(address()).toContain("kind=two-peg");
  reload();
  await page.role("searchbox", "Words").reads("lv-07 tam");
  await rows.first().says("Two-peg test");
  const shown = Number(heading.words.replace("One", "1").split(" ")[0]);
  const [names = "", ...lines] = (await downloaded(page.role("link", "Export these"))).text.trim().split(/\r?\n/);
  const columns = ["instrument", "grade", "kind"].map((name) => names.split(",").indexOf(name));
  expect(lines).toHaveLength(shown);
  for (const line of lines)
    expect(columns.map((column) => line.split(",")[column])).toEqual(["LV-07", "adjust", "two-peg"]);
  await rows.first().css("[data-open]").focus();
  await press("End");
  await press("Home");
  await press("Enter");
  await saved();
  await page.button("Calculate it again with today's Naveta").click();
  await page.css("[data-recomputed=same]").says("The same result");
});

it("filters nobody can satisfy say so and are cleared", async () => {
  await open("/ledger?grade=service&stage=as-left&words=nothing", { who: "Ines Calder" });
  await page.text("No record matches these filters.").there();
  await page.button("Clear filters").click();
  await title.says("records");
  await page.label("from", { exact: true }).fill("2027-03-01");
  await page.label("to", { exact: true }).fill("2027-03-01");
  await page.role("list", "Records").says("excavator");
});

it("filters are kept by name and come back", async () => {
  await open("/ledger?instrument=LV-07&grade=adjust", { who: "Ines Calder" });
  await page.css("[data-record]").first().there();
  const found = page.css("[data-record]").count;
  await page.button("Views").click();
  await page.role("menuitem", "Keep this view…").click();
  await page.role("textbox", "Name").fill("Adjusted LV-07");
  await page.button("Keep it").click();
  await page.button("Clear filters").click();
  await page.button("Views").there();
  await page.button("Views").click();
  await page.role("menuitem", "Adjusted LV-07", { exact: true }).click();
  await page.css("[data-record]").counts(found);
  goTo("/fleet");
  await page.css("[data-instrument]").first().there();
  await page.button("Views").click();
  await page.role("menuitem", "Adjusted LV-07", { exact: true }).counts(0);
});

it("reports open as pdf", async () => {
  await open("/instruments/LV-05", { who: "Ines Calder" });
  await page.role("link", "Report of its history").there();
  const report = await downloaded(page.role("link", "Report of its history"));
  expect(report.text.startsWith("%PDF")).toBe(true);
  await page.role("radio", "By temperature").click();
  await page.css("[data-warmth]").there();
  await page.role("radio", "Same model").click();
  await page.css("[data-compared=LV-05]").there();
  const fleet = (await there().get("fleet")).rows;
  const model = fleet.find((row: any) => row.tag === "LV-05").model;
  await page.css("[data-compared]").counts(fleet.filter((row: any) => row.model === model).length);
});

it("chosen instruments compared", async () => {
  await open("/fleet", { who: "Ines Calder" });
  for (const tag of ["LV-02", "LV-05", "TA-01"]) {
    await page.label(`Choose ${tag}`).click();
  }
  await page.role("link", "Compare").click();
  await at(/\/compare\?tags=LV-02,LV-05,TA-01/);
  await title.says(": 2 instruments");
  await page.label("Which check").choose("Two-peg test");
  await page.css("[data-compared] svg").counts(2);
  await page.text("Not made of this: TA-01.").there();
  reload();
  await title.says("Two-peg test: 2 instruments");
  await page.role("link", "LV-05").click();
  await at(/\/instruments\/LV-05/);
});
