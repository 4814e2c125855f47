// A job's kit, the case looked through, the service, the load, the week by e-mail, the fleet as a file.
import { address, goTo, open, page, there, title, downloaded, fetched } from "./page";
import { fresh } from "./sheet";
import { asked } from "./server";

it("the kit of a job from today to its checks", async () => {
  await open("/today");
  const strip = page.role("region", "Next job");
  await strip.says("East abutment pile heads");
  await strip.role("link", "Kit for this job").click();
  const take = page.role("region", "Take");
  await take.css("[data-take]").first().there();
  const job = address().split("/").at(-1);
  const answer = (await there().get(`jobs/${job}/kit`)).answer;
  const kits = [answer.kit, ...answer.alternatives];
  const buttons = page.label("Kits").role("button");
  await buttons.counts(kits.length);
  for (const [n, kit] of [...kits.entries()]) {
    await buttons.nth(n).click();
    await title.says(kit.text);
    expect(
      take
        .css("[data-take]")
        .each()
        .map((row) => row.attr("data-take")),
    ).toEqual(kit.tags);
    const shown = page
      .css("ol [data-check]")
      .each()
      .map((row) => row.attr("data-check"));
    expect(shown).toEqual(kit.checks.map((check: any) => `${check.tag}/${check.check}`));
  }
  const measured = answer.fitness.find((each: any) => each.budgets.length);
  const row = page.css(`[data-fitness='${measured.tag}']`);
  await row.has("data-fit", measured.fit);
  await row.role("button").click();
  await row.css("[data-budget]").first().says(measured.budgets[0].total_text);
  const held = page.css("[data-fitness=LV-07]");
  await held.has("data-fit", answer.fitness.find((each: any) => each.tag === "LV-07").fit);
});

// A level of its own, never checked, is what a job of one level without a staff may take: its test is begun from there.
it("the checks of a kit are begun from it in their order", async () => {
  const tag = await fresh("Merrow");
  await open("/today");
  const needs = { levelling_mm: "3", sight_m: "40" };
  const job = { name: "Culvert", crew: "Bramble", starts_on: "2027-03-02", ends_on: "2027-03-02", needs: needs };
  const made = await there().send("POST", "jobs", job);
  goTo(`/plan/jobs/${made.body.id}`);
  const row = page.css(`[data-fitness=${tag}]`);
  await row.has("data-fit", "fit-if");
  await row.says("Check first: compensator and two-peg test, 23 minutes.");
  await row.role("button").click();
  await row.says("Never checked here");
});

it("a jobs needs are begun from a class and what cannot be is said", async () => {
  await open("/plan/jobs", { who: "Ines Calder" });
  await page.button("Plan a job").click();
  const dialog = page.role("dialog");
  await dialog.label("Name of the job").fill("Weir sill");
  await dialog.label("First day").fill("2027-03-09");
  await dialog.label("Begin from a class of jobs").choose("Levelling on site");
  await dialog.label("Height difference by level, mm").reads("3");
  await dialog.label("Height difference by level, mm").fill("0");
  await dialog.button("Plan it").click();
  await dialog.css("[data-fault='needs.levelling_mm']").there();
  await dialog.label("Height difference by level, mm").fill("0,6");
  await dialog.button("Plan it").click();
  await page.css("[data-job='Weir sill']").role("link", "Weir sill").click();
  await page.css("[data-fitness=LV-02]").says(/At best|Read each staff/);
  await page.button("Change this job").click();
  await dialog.label("Height difference by level, mm").reads("0.6");
  await dialog.button("Take it off the plan").click();
  await page.css("[data-job='Weir sill']").counts(0);
});

it("the case is looked through on a phone in three taps", async () => {
  const tag = await fresh("Merrow");
  await open(`/instruments/${tag}`, { wide: 390 });
  await page.button("Take out").click();
  const dialog = page.role("dialog");
  await dialog.button("Take out").click();
  await dialog.says("Enter a few words");
  await dialog.label("Why it goes out before its check").fill("Checked on site.");
  await dialog.button("All ready").click();
  await dialog.role("status").says("1 of 1 ready.");
  await dialog.label("Adjusting tools in the case").click();
  await dialog.role("status").says("0 of 1 ready.");
  await dialog.button("Take out").click();
  await page.button("Hand in").click();
  await dialog.button("All there").click();
  await dialog.button("Hand in").click();
  const inCase = page.role("region", "Case");
  await inCase.says("Nothing missing. Tam Brandreth");
  await page.button("Take out").click();
  await dialog.label("Why it goes out before its check").fill("Checked on site.");
  await dialog.button("All there").click();
  await dialog.label("Rain cover").click();
  await dialog.role("status").says("4 of 5 there; what is not ticked is recorded as missing.");
  await dialog.button("Take out").click();
  await inCase.says("Missing: rain cover. Tam Brandreth");
  await page.button("Hand in").click();
  await dialog.role("status").says("Missing: rain cover, as last seen by Tam Brandreth");
});

it("a picture of the case is kept shown and removed", async () => {
  const tag = await fresh("Merrow");
  await open(`/instruments/${tag}`);
  const inCase = page.role("region", "Case");
  const choose = inCase.css("input[type=file]");
  await choose.file("a.jpg", "no picture", "image/jpeg");
  await inCase.says("a picture: JPEG, PNG or WebP");
  await choose.file("a.jpg", Uint8Array.from(Buffer.from(await asked<string>("picture"), "base64")), "image/jpeg");
  await inCase.role("img").there();
  const shown = await fetched(inCase.role("img").attr("src"));
  expect([shown.status, shown.headers.get("content-type")]).toEqual([200, "image/jpeg"]);
  await page.button("Take out").click();
  await page.role("dialog").role("img").has("alt", `How ${tag} lies in its case`);
  goTo(`/bench/new/${tag}/two-peg`);
  await page.button("Start reading").click();
  await page.css("[data-details]").click();
  await page.alt("How it lies in its case").there();
  goTo(`/instruments/${tag}`);
  await inCase.button("Remove").click();
  await inCase.role("img").counts(0);
});

it("it goes to service and comes back with its certificate and cost", async () => {
  const tag = await fresh("Merrow");
  await open(`/instruments/${tag}`, { who: "Ines Calder" });
  await page.button("Send to service").click();
  const dialog = page.role("dialog");
  await dialog.label("Where, and what for").fill("Tolvan workshop, yearly");
  await dialog.button("Send to service").click();
  await page.button("Back from service").there();
  goTo("/plan/service");
  await page.css(`[data-away=${tag}]`).says("0 days");
  goTo(`/instruments/${tag}`);
  await page.button("Back from service").click();
  await dialog.button("It is back").click();
  await dialog.says("Enter a few words");
  await dialog.label("What was done").fill("Compensator cleaned.");
  await dialog.label("Collimation of the level").click();
  await dialog.label("Cost of the service").fill("195,40");
  await dialog.label("Cost of the days without it").fill("60");
  const choose = dialog.css("input[type=file]");
  await choose.file("report.exe", "MZ", "application/pdf");
  await dialog.button("It is back").click();
  await dialog.css("[data-fault=file]").says("a PDF, JPEG or PNG file");
  await dialog.label("What was done").reads("Compensator cleaned.");
  await choose.file("report.pdf", "%PDF-1.7 report", "application/pdf");
  await dialog.button("It is back").click();
  await page.role("list", "Certificates").says("report.pdf");
  goTo("/plan/service");
  await page.css("[data-cost='2027 Ondine Merrow']").says("255.40");
});

it("the load is levelled and the week is sent to oneself", async () => {
  await open("/plan", { who: "Ines Calder" });
  await page.button("Level the load").click();
  await page.css("[data-morning]").first().there();
  expect(page.css("[data-week]").count).toBeGreaterThanOrEqual(2);
  await page.button("By e-mail").click();
  const dialog = page.role("dialog");
  await dialog.says("All instruments, week of 1 Mar 2027");
  await dialog.label("Your e-mail address").fill("ines@example.org");
  await dialog.button("Save").click();
  await page.text("Sent to you every Monday from now on.").some();
  await dialog.button("Send it now").click();
  await dialog.role("region", "Sent (the demo").says("LV-07");
});

const TABLE =
  "tag,maker,model,kind,serial,place\nLV-21,Ondine,Merrow,,4410,Yard shelf 8\nTL-01,Ondine,Tarn,level,,Yard shelf 8\n";
it("the fleet goes out as a file and comes in with a way back", async () => {
  await open("/fleet", { who: "Ines Calder" });
  await page.button("File", { exact: true }).click();
  const dialog = page.role("dialog");
  const table = await downloaded(dialog.role("link", "Export the fleet"));
  expect(table.name).toBe("fleet.csv");
  expect(table.text).toContain("LV-07");
  const chosen = dialog.label("The table");
  await chosen.file("f.csv", TABLE.replace("TL-01", "LV-21"));
  await dialog.role("alert").last().says("each tag once");
  await chosen.file("f.csv", TABLE);
  await dialog.css("[data-look]").says("2 new, 0 changed, 0 unchanged");
  await dialog.css("[data-row=TL-01]").says("new model: Ondine Tarn");
  await dialog.button("Import", { exact: true }).click();
  await page.css("[data-instrument=LV-21]").there();
  await page.button("Undo").click();
  await page.css("[data-instrument=LV-21]").counts(0);
});
