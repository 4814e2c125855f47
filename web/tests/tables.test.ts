// Tables made by others: which column is what, said once, looked at, opened as a sheet, and known the next time.
import { at, open, page, signal, title, visit, keptFiles } from "./page";
import { complete, finding, fresh, known } from "./sheet";

const ROUNDS =
  "Job 17, north pier;;;;\nObserver;Jory;;;\nRound;Target;Hz I [gon];Hz II [gon];Remark\n1;Mast;0,0012;200,0021;clear\n;Spire;55,1234;255,1240;\n;Tower;130,4410;330,4421;haze\n2;Mast;100,0010;300,0022;\n;Spire;155,1232;355,1236;\n;Tower;230,4408;30,4420;\n;Tower;again;x;\nmean;;;;\n";
type Table = [name: string, content: string | Uint8Array<ArrayBuffer>];
async function load(check: string, tag: string, table: Table) {
  visit("/bench");
  await page.button("Load from a file").click();
  const dialog = page.role("dialog");
  await dialog.label("Which check is in it").choose(check);
  await dialog.button(tag, { exact: true }).click();
  await dialog.label("The file").file(...table);
}

it("rounds of another program are read and known the next time", async () => {
  const tag = await fresh("Tessaly");
  await open();
  // As a spreadsheet of Western Europe writes it: a degree sign that is no UTF-8.
  const text = ROUNDS.replace("north pier", "north pier 12°");
  const table: Table = ["rounds.csv", Uint8Array.from(text, (sign) => sign.charCodeAt(0))];
  await load("direction-rounds", tag, table);
  await title.says("Which column is what");
  await page.css("[data-readings]").says("14 readings in 7 lines");
  await page.label("Hz I [gon] is").reads("hz/left");
  await page.css("[data-angle-unit]").reads("gon");
  await page.css("[data-fault-line='10']").first().says("again");
  await page.button("Open as a sheet").disabled();
  await page.button("Leave out line 10").click();
  await page.css("[data-readings]").says("12 readings in 6 lines");
  await page.button("Open as a sheet").click();
  await at(/\/bench\/[0-9a-f-]{36}/);
  await complete();
  await page.css("[data-finding]").first().says("Two directions from target Mast");
  // Somebody else of the firm loads the next file of that program: it is read as last time.
  await open("/angles", { who: "Jory Pell" });
  await load("direction-rounds", tag, table);
  await page.css("[data-known]").says("Read as last time: Tam Brandreth");
  await page.label("Hz II [gon] is").reads("hz/right");
  await page.label("Hz II [gon] is").choose("");
  await page.css("[data-known]").counts(0);
  await page.css("[data-readings]").says("7 readings in 7 lines");
});

// Headings nobody could guess, millimetres, no network: said by hand, computed by the browser's own core.
//
//     (1.4000 − 1.3020) − (1.2340 − 1.1110) = −0.0250 m over 50 m of imbalance: 103″.
//
it("a level book on a phone without signal", async () => {
  const tag = await fresh("Merrow");
  await open("/bench", { wide: 390 });
  await known(tag);
  await page.button("Load from a file").click();
  signal(false);
  const dialog = page.role("dialog");
  await dialog.button(tag, { exact: true }).click();
  await dialog
    .label("The file")
    .file("book.txt", "Stand\tp\tq\tfar p\tfar q\n1\t1234\t1111\t30\t30\n2\t1400\t1302\t5\t55\n");
  await page.css("[data-message=column-missing]").first().there();
  for (const [column, use, unit] of [
    ["p", "reading/A", "mm"],
    ["q", "reading/B", "mm"],
    ["far p", "distance/A", "m"],
    ["far q", "distance/B", "m"],
  ] as const) {
    await page.label(`${column} is`, { exact: true }).choose(use);
    await page.label(`${column}: unit`, { exact: true }).choose(unit);
  }
  await page.css("[data-readings]").says("4 readings in 2 lines");
  await page.button("Open as a sheet").click();
  await at(/\/bench\/[0-9a-f-]{36}/);
  await finding("adjust");
  await page
    .css("[data-finding]")
    .first()
    .says(/10[0-9]″/);
});

it("control points with headings of their own", async () => {
  await open("/points");
  await page.button("Import a table").click();
  await page.label("The table").file("points.csv", "Pt;Northing;Easting;Elev\nXM-1;8800,1;4300,2;9\n");
  await page.label("Pt is").reads("name");
  await page.label("Elev is").choose("h");
  await page.button("Look at the points").click();
  await page.css("[data-looked]").says("1 new, 0 unchanged, 0 that would move.");
  await page.button("Save these points").click();
  await page.css("[data-point=XM-1]").says("4300.200");
});

it("sights go out as a table and come in again", async () => {
  await open("/orientation");
  await page.role("radio", "Free station").click();
  await page.button("Load from a file").click();
  const dialog = page.role("dialog");
  await dialog.button("TS-03", { exact: true }).click();
  await dialog
    .css("input[type=file]")
    .file("sights.txt", "QB-1 12,3045 89,5930\nQB-2 101,0010 90,1015\nQB-4 250,1010 90,0005\n");
  for (const [column, use] of [
    ["Column 1", "point"],
    ["Column 2", "hz"],
    ["Column 3", "v"],
  ] as const) {
    await page.label(`${column} is`).choose(use);
  }
  await page.css("[data-message=angles-in]").there();
  await page.css("[data-angle-unit]").choose("dms");
  await page.button("Open as a sheet").click();
  await at(/\/orientation\/[0-9a-f-]{36}/);
  await page.text("The sights as a file").click();
  const files = keptFiles();
  await page.button("Save the readings as a table (CSV)").click();
  const out = (await files.next()).text.split("\n");
  expect(out[0]?.split(",").slice(0, 3)).toEqual(["point", "hz", "v"]);
  expect(out[1]).toMatch(/^QB-1,"12,3045","89,5930"/);
});

it("without a file in hand the page of its columns asks for one", async () => {
  // Whoever comes next on this device sees nothing of the file of the last.
  await open("/points/table", { who: "Wren Adair" });
  await page.role("heading", "No table is open").there();
});
