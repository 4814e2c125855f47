// Typing a field sheet: every key of the bench, entries that are refused, and that nothing typed is lost.
import { type Found, open, page, press, reload, type, until, visit } from "./page";
import { begin, complete, finding, sheet, startReading } from "./sheet";

const TAG = "LV-03";

/** `0-b-reading`, `0-b-reading-1`, `1-b-distance`, `0-a-upper`. */
function cell(name: string): Found {
  const [setup, staff, what, row = "0"] = name.split("-");
  const end = what === "reading" ? `readings-${row}` : what === "distance" ? "distance" : `wires-${row}-${what}`;
  return page.css(`#row-observations-setups-${setup}-${staff}-${end}`);
}

it("the keys follow the order of reading", async () => {
  await open();
  await begin(TAG);
  await type("1.885");
  await press("Enter");
  await cell("0-b-reading").focused();
  await press("Shift+Enter");
  await cell("0-a-reading").focused();
  await type("1.8851;");
  await cell("0-a-reading-1").focused();
  await cell("0-a-reading").reads("1.8851");
  await type("=");
  await cell("0-a-reading-1").reads("1.8851");
  await type("=");
  await cell("0-a-reading-2").reads("1.8851");
  await page.button(/^Strike 1.8851/).click();
  await cell("0-a-reading-2").counts(0);
  await page.button(/1.8851 is struck/).there();
  await cell("0-a-distance").fill("31.2");
  await press("Enter");
  await cell("0-a-reading").focused();
});

it("three wires take the distance from the wires", async () => {
  await open();
  await begin(TAG);
  await type("*");
  await cell("0-a-upper").focused();
  await cell("1-b-lower").there();
  const readings = [
    [1.65, 1.5, 1.35],
    [1.65, 1.5, 1.35],
    [1.78021, 1.50021, 1.22021],
    [1.52, 1.5, 1.48],
  ];
  for (const [i, three] of [...readings.entries()]) {
    for (const [j, entry] of [...three.entries()]) {
      if (i || j) {
        await press("Enter");
      }
      await type(`${entry.toFixed(5)}`);
    }
  }
  await cell("1-a-distance").has("placeholder", "by three hairs");
  await page.css("[data-column='observations.setups[1].a']").says("Stadia distance 56 m");
  await complete();
  await page.label("Finding").says("no error found");
  await page.button("Steps and method").click();
  await page.role("radio", "Metres", { exact: true }).checked();
});

const WRONG: [field: string, typed: string, wanted: string][] = [
  ["1-b-reading", "1.4.2", "a number with one decimal mark"],
  ["1-b-reading", "1_4", "a number without marks between the digits"],
  ["1-b-reading", "91.4", "units are metres"],
  ["1-b-reading", "NaN", "a number"],
  ["1-b-distance", "-4", "a distance from 1 to 150 m"],
];
it("a wrong entry says what is wanted and is stored", async () => {
  await open();
  await begin(TAG);
  await sheet("1.8851", "1.4020", "1.8868", "1.4000");
  await finding("watch");
  for (const [i, [field, typed, wanted]] of WRONG.entries()) {
    const right = cell(field).value;
    await cell(field).fill(typed);
    const fault = page.css("[data-column='observations.setups[1].b'] [data-fault]");
    await fault.says(typed);
    await fault.says(wanted);
    await cell(field).has("aria-invalid", "true");
    await cell(field).reads(typed);
    await page.button("Save as found").counts(0);
    if (i < WRONG.length - 1) {
      await cell(field).fill(right);
      await finding("watch");
    }
  }
  reload();
  await cell("1-b-distance").reads("-4");
  await cell("0-a-reading").reads("1.8851");
});

it("set ups of equal imbalance are refused by name", async () => {
  await open();
  await begin(TAG);
  await sheet("1.8851", "1.4020", "1.8868", "1.4000");
  await page.css("#row-observations-setups-1-a-distance").fill("30");
  await page.css("#row-observations-setups-1-b-distance").fill("30");
  await page.css("[data-fault='observations.setups']").says("differs by at least 2 m");
});

it("feet and the reading that lies apart", async () => {
  await open(`/bench/new/${TAG}/two-peg`);
  await page.role("radio", "Feet", { exact: true }).click();
  await page.button("Start reading").click();
  await page.css("#row-observations-setups-0-a-readings-0").focus();
  await sheet("3.444;3.445;3.544;3.444", "4.589;4.588;4.590", "3.441;3.442;3.441", "4.585;4.586;4.585");
  const apart = page.css("[data-outlier]");
  await apart.role("textbox").reads("3.544");
  await page.css("[data-column='observations.setups[0].a']").says("Typed 3.544 for 3.444?");
  await apart.role("textbox").fill("3.444");
  await page.css("[data-outlier]").counts(0);
  await complete();
  await page.label("Finding").says("A 30 ft difference");
});

it("a telephone has a bar of its own", async () => {
  await open("/angles", { wide: 390 });
  await begin(TAG);
  await cell("0-a-reading").click();
  const bar = page.role("toolbar", "Keys for readings");
  await bar.there();
  await type("1.885");
  await bar.button("Other sign").click();
  await cell("0-a-reading").reads("-1.885");
  await bar.button("Other sign").click();
  await bar.button("One more").click();
  await bar.button("Same again").click();
  await cell("0-a-reading-1").reads("1.885");
  await bar.button("Next").click();
  await cell("0-b-reading").focused();
});

it("a finding that is not good is led through from the other end", async () => {
  await open();
  await begin(TAG);
  await sheet("1.4680", "1.2104", "1.5233", "1.2515");
  await finding("adjust");
  await page.css("[data-led=real]").role("button").click();
  await page.css("[data-entry]").counts(4);
  await page.css("#row-observations-setups-3-b-distance").reads("56");
  await page.css("#row-observations-setups-2-a-readings-0").focus();
  await sheet("1.4681", "1.2105", "1.5093", "1.2655");
  await complete();
  await page.css("[data-entry='3']").button("Remove").click();
  await page.css("[data-entry]").counts(3);
  await page.button("Undo").click();
  await page.css("[data-entry]").counts(4);
  await page.css("#row-observations-setups-3-b-readings-0").reads("1.2655");
});

const SHEETS: [number, [string, string][]][] = [
  [
    1280,
    [
      ["LV-03", "two-peg"],
      ["TS-03", "direction-rounds"],
      ["TS-03", "plummet"],
      ["TR-01", "tripod"],
      ["ST-01", "staff"],
    ],
  ],
  [
    820,
    [
      ["LV-03", "compensator-function"],
      ["TS-03", "dual-axis-level"],
      ["TS-01", "tracker"],
      ["TA-01", "tape"],
      ["PO-01", "pole-vial"],
    ],
  ],
  [
    390,
    [
      ["LV-03", "circular-vial"],
      ["LV-03", "levelling-accuracy"],
      ["TS-03", "two-face"],
      ["TS-03", "direction-accuracy"],
      ["TD-01", "plate-vial"],
    ],
  ],
];

it.each(SHEETS)("what is typed right after Start reading arrives, %i wide", async (wide, sheets) => {
  await open("/angles", { wide });
  for (const [tag, kind] of sheets) {
    visit(`/bench/new/${tag}/${kind}`);
    await startReading();
    await until(() => expect(document.activeElement?.classList.contains("number-field"), kind).toBe(true));
    const id = document.activeElement?.id ?? "";
    await type("1");
    expect((document.getElementById(id) as HTMLInputElement).value, kind).toBe("1");
  }
});

it("a sheet opened again goes on at the first reading that is open", async () => {
  await open();
  await begin(TAG);
  await type("1.885");
  await press("Enter");
  await cell("0-b-reading").focused();
  await reload();
  await cell("0-b-reading").focused();
});
