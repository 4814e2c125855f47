// Orientation as a crew does it: sights typed, a swapped pair found and fixed, a backsight after a set-up, the points.
import { address, at, open, page, press, recordHere, reload, there, title, until, visit } from "./page";
import { saved, fillQuick } from "./sheet";
import { asked } from "./server";

/** A circle read so many seconds further on. */
function later(packed: string, seconds: number): string {
  const [degrees = "0", after = ""] = packed.split(".");
  const all = Number(degrees) * 3600 + Number(after.slice(0, 2)) * 60 + Number(after.slice(2, 4)) + seconds;
  const two = (value: number) => String(Math.floor(value)).padStart(2, "0");
  return `${Math.floor(all / 3600)}.${two((all / 60) % 60)}${two(all % 60)}`;
}

type Shot = { hz: string; v: string; slope_distance: string; target_height: string };
/** What is read to these points from one stand, in this order. */
const sights = (seed: number, of: string[], more: object = {}): Promise<Shot[]> =>
  asked("sights", { seed, of, ...more });

/** Type one sight. */
async function sight(index: number, named: string, shot: Shot | undefined) {
  if (!shot) throw new Error("No such sight.");
  if (index) {
    await page.button("One more sight").click();
  }
  await page.css("[data-pick-point] input").fill(named);
  await page.css(`#shot-${index}-hz`).fill(shot.hz);
  await page.css(`#shot-${index}-v`).fill(shot.v);
  await page.css(`#shot-${index}-slope_distance`).fill(shot.slope_distance);
  await page.css(`#shot-${index}-target_height`).fill(shot.target_height);
}

async function begin_free() {
  visit("/orientation");
  await page.button("TS-03").click();
  await page.role("radio", "Free station").click();
  await page.button("Start with the first sight").click();
  await page.css("#instrument-height").fill("1.550");
}

async function answered(grade: string) {
  await page.css(`[data-fresh=true] [data-finding=${grade}]`).some();
}

it.each([1280, 390])("a free station with a swapped pair found and fixed, on a page %i wide", async (wide) => {
  await open("/angles", { wide });
  const [one, two, three, four, closing] = await sights(2, ["QB-1", "QB-2", "QB-4", "PC-14", "QB-1"]);
  await begin_free();
  await sight(0, "QB-1", one);
  await sight(1, "QB-2", two);
  await sight(2, "PC-14", three);
  await sight(3, "QB-4", four);
  await answered("repeat");
  await page.text("PC-14 and QB-4 seem swapped: exchanged, everything agrees.").there();
  await page.css("[data-suspect]").counts(2);
  await page.css("[data-ellipse]").counts(1);
  await page.button("Give PC-14 and QB-4 each other's name").click();
  await answered("use");
  await page.text("Closing sight at the reference").click();
  await page.css("#closing-hz").fill(closing?.hz ?? "");
  await answered("use");
  await page.button("Keep this").click();
  await saved();
  await title.says("TS-03 free station");
  const record = await recordHere();
  const figures = record.result.result;
  expect(Math.hypot(figures.e_m - 4160, figures.n_m - 8725)).toBeLessThan(0.005);
  expect(Math.abs((figures.orientation_deg - 212.345) * 3600)).toBeLessThan(8);
  expect(record.document.observations.shots[2].point).toEqual("QB-4");
  await page.button("Closing sight").click();
  await at(/closing/);
  await page.css("#closing-hz").fill(later(closing?.hz ?? "", 40));
  await answered("repeat");
  await page.text("the tripod has moved").there();
  const first = record.id;
  await page.button("Keep this").click();
  await until(() => address().startsWith("/records/") && !address().includes(first));
  const struck = await there().get(`records/${first}`);
  expect(struck.amended_why).toEqual("Closing sight added.");
});

it("a moved point is left out with one touch and names are minded", async () => {
  await open();
  const shots = await sights(3, ["PC-14", "QB-1", "QB-2", "QB-3"], { moved: { "PC-14": 0.06 } });
  await begin_free();
  await page.css("[data-pick-point] input").fill("PC-41");
  await page.css("[data-near=PC-14]").click();
  await page.css("[data-pick-point] input").reads("PC-14");
  for (const [i, name] of ["PC-14", "QB-1", "QB-2", "QB-3"].entries()) await sight(i, name, shots[i]);
  await answered("repeat");
  await page.button("Leave PC-14 out").click();
  await answered("use");
  await page.css("[data-shot='0']").says("left out");
  reload();
  await answered("use");
});

it("a set up goes on to its backsight and its budget", async () => {
  await open("/set-up");
  await page.button("TS-03").click();
  await page.css("#mark").fill("PC-09");
  await page.button("Already set up: record it").click();
  await fillQuick("0.0", ["1.5500", "1.5500"]);
  await page.button("Save this set-up").click();
  await saved();
  const setUp = address().split("/").at(-1) ?? "";
  await page.role("link", "Effect on work").click();
  await page.css("#budget-tilt_arcsec").reads("5");
  await page.css("#budget-back_m").fill("10");
  await page.css("#budget-fore_m").fill("60");
  await page.css("#budget-allowed\\.position_mm").fill("5");
  const budget = page.css("[data-budget=position][data-enough=false]");
  await budget.says("use a longer backsight");
  await page.css("#budget-target_mm").has("placeholder", "1");
  await page.css("#budget-back_m").fill("abc");
  await page.css("[data-fault=back_m]").says("abc");
  await page.role("link", "To the set-up").click();
  await title.says("TS-03 over PC-09");
  await page.role("link", "Orientation").click();
  await page.label("Station point").reads("PC-09");
  await page.button("Start with the first sight").click();
  await page.css("#instrument-height").reads("1.5500 m");
  await sight(0, "QB-2", (await sights(5, ["QB-2"], { over: "PC-09" }))[0]);
  await answered("use");
  await page.button("Keep this").click();
  await until(() => address().startsWith("/records/") && !address().endsWith(setUp));
  await page.css("[data-finding]").says("At PC-09: QB-2 agrees within");
  await page.role("link", "Its set-up").click();
  await at(new RegExp(setUp));
  await page.label("Orientation", { exact: true }).says("At PC-09: QB-2 agrees within");
  await page.role("link", "To TS-03").click();
  await page.css("[data-series=control]").click();
  await page.label("History").css("[data-stage]").first().there();
});

it("known points come in from a table looked at first", async () => {
  await open("/points");
  await page.button("Import a table").click();
  await page.label("The table").file("points.csv", "name;n;e;h\nXB-1;8800,1;4300,2;9\nQB-3;8648,955;4177,414;8,431\n");
  const looked = page.css("[data-looked]");
  await looked.says("1 new, 0 unchanged, 1 that would move.");
  await looked.says("QB-3 would move by 12.0 mm");
  await press("Escape");
  await page.css("[data-point=XB-1]").counts(0);
  await page.button("Import a table").click();
  await page.label("The table").file("points.csv", "name;n;e\nXB-1;8800,1;4300,2\nXB-2;oops;4300,2\n");
  await page.css("[data-fault='line 3, n']").says("oops");
  await page.label("The table").file("points.csv", "name;n;e\nXB-1;8800,1;4300,2\n");
  await page.button("Save these points").click();
  await page.css("[data-point=XB-1]").says("4300.200");
});

// From 350°10′ clockwise to 20°40′ are 30°30′; a right angle on from 350°10′ reads 80°10′.
it("angles turned and to turn to", async () => {
  await open("/angles", { wide: 390 });
  const found = page.label("Turned angle").css("[data-answer]");
  await page.css("#angle-start").fill("350.10");
  await page.css("#angle-other").fill("20.40");
  await found.says("30°30′00.0″ clockwise.");
  await page.role("radio", "Reading to turn to").click();
  await page.button("A right angle").click();
  await found.says("Turn clockwise until the circle reads 80°10′00.0″.");
  await page.css("#angle-other").fill("20.4");
  await page.css("[data-fault=turn]").says("40 or 4 minutes");
  await page.css("#diagonal").fill("5.002");
  await page.label("Right angle by tape").css("[data-answer]").says("too wide, 3.3 mm");
});

it("sights open from a table with the firms points and faults by line", async () => {
  await open("/orientation");
  const names = ["QB-1", "QB-2", "QB-4"];
  const shots = await sights(11, names);
  const lines = [
    "point;hz;v;slope_distance;target_height;angle",
    ...shots.map((shot, i) => `${names[i]};${shot.hz};${shot.v};${shot.slope_distance};1.300;dms`),
  ];
  const bad = [...lines, "QB-3;10.75;90;20;1.3;dms"].join("\n");
  await page.role("radio", "Free station").click();
  await page.button("Load from a file").click();
  const dialog = page.role("dialog");
  await dialog.css("input[type=file]").file("sights.csv", bad);
  await dialog.text("Choose the instrument first.").there();
  await dialog.button("TS-03").click();
  await dialog.css("input[type=file]").file("sights.csv", bad);
  await dialog.css("[data-fault='line 5, hz']").says("minutes below 60");
  await dialog.css("input[type=file]").file("sights.csv", lines.join("\n"));
  await at(/\/orientation\//);
  await page.text("Next reading: the instrument height").there();
  await page.css("#instrument-height").fill("1.55");
  await answered("use");
  await page.css("[data-finding=use]").says("Free station: largest residual");
});
