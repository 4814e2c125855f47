// The line of sight walked: targets planned, faces put right, values stored and proved, rounds of directions; and the pre-work check.
import { at, goTo, open, page, recordHere, there, title, visit } from "./page";
import { condition, field, fill, finding, fresh, saved, sheet, simulate, startReading } from "./sheet";

const ENTRY = /\/bench\/[0-9a-f-]{36}/;
const ROUND = /\/bench\/readiness\/[0-9a-f-]{36}/;

async function start(onFor = "12") {
  await startReading();
  await at(ENTRY);
  if (page.css("[data-circumstance=minutes_on]").count) {
    await condition("minutes_on", onFor);
  }
}

async function openMore(faces: string[]) {
  for (const face of faces) {
    for (const i of [0, 1]) {
      const last = field(`observations.targets[0].${face}[${i}].v`);
      await last.fill("90"); // an empty row is used first
      await last.press(";");
    }
  }
}

/** The check at hand of a round, from its Begin to the round again. `more`: faces that get two pointings more. */
async function take(kind: string, seed: number, truth: object, more: string[] = []) {
  await page.css(`[data-step=${kind}]`).role("link", "Begin").click();
  await start();
  await openMore(more);
  await fill(await simulate(kind, seed, { ...truth }));
  await page.css("[data-complete=true][data-fresh=true] [data-finding]").some();
  await page.button("Save as found").click();
  await at(ROUND);
  await page.css(`[data-step=${kind}][data-state=done]`).there();
}

it("a round is broken off taken up adjusted and ends in go", async () => {
  await open("/angles", { who: "Ines Calder", wide: 820 });
  const tag = await fresh("Tessaly");
  visit(`/bench/new/${tag}`);
  await page.role("link", "Pre-work check").click();
  await page.role("radio", "5", { exact: true }).click();
  await page.css("[data-taken=true]").counts(3);
  await page.role("radio", "10", { exact: true }).click();
  await page.css("[data-taken=true]").counts(4);
  await page.button("Begin: 4 checks, about 7 minutes").click();
  await at(ROUND);
  await take("circular-vial", 1, { headings: [0, 180], noise: 0.2 });
  await title.says("1 of 4 done");
  goTo("/bench");
  const row = page.label("Open checks").css("li").with(tag);
  await row.says("1 of 4 checks done");
  await row.role("link", "Go on").click();
  await at(ROUND);
  await take("dual-axis-level", 2, { headings: [0, 180], index_arcsec: [0.5, -0.5], noise: 0.4 });
  await page.css("[data-step=plummet]").button("Leave out").click();
  await page.button("No time").click();
  await page.css("[data-step=plummet]").says("Left out: no time.");
  const quick = { pointings: 3, targets: [[90.1, 100.0]], closing: 0, noise: 0.3 };
  await take("two-face", 3, { c: 40, i: 0, ...quick }, ["left", "right"]);
  await page.css("[aria-label='Outcome'] [data-finding=adjust]").says("Adjust first: two-face check.");
  await page.role("link", "Open it").click();
  await page.css("#reads-now").fill("2.0");
  await page.css("#reads-now-1").fill("-1.0");
  await page.button("Note", { exact: true }).click();
  await page
    .css("[aria-label='Readings since the first turn'] li")
    .says(/c from \+2\.0″ to −3\d\.\d″\. It stores the correction/);
  await page.button("Test again, as left").click();
  await at(ENTRY);
  await page.label("Field sheet").there();
  await openMore(["left", "right"]);
  await fill(await simulate("two-face", 4, { c: 0.5, i: 0, ...quick }));
  await page.css("[data-complete=true][data-fresh=true] [data-finding]").some();
  await page.css("[data-strip]").click(); // while typing the finding is one strip
  await page.css("[data-reason=stored-and-proved]").says("stored correctly");
  await page.button("Save as left").click();
  await at(ROUND);
  await page.css("[data-step=two-face]").says("As left.");
  await page.css("[aria-label='Outcome'] [data-finding=watch]").says("plummet not checked");
  await page.button("Save this pre-work check").click();
  await saved();
  await page.label("Checks included").css("[data-check=two-face]").says("as left");
  const record = await recordHere();
  expect([record.category, record.grade]).toEqual(["round", "watch"]);
  expect(record.result.result.outcome).toEqual("go-with-care");
});

it("targets are planned and the full test begins with them", async () => {
  await open("/angles", { who: "Tam Brandreth", wide: 390 });
  const tag = await fresh("Tessaly");
  visit(`/bench/new/${tag}/two-face`);
  await page.role("link", "Plan targets first").click();
  await page.css("#target-0-distance").fill("96");
  await page.label("What it is").nth(1).fill("Chapel spire");
  await page.css("#target-1-distance").fill("74x");
  await page.css("#target-1-distance-fault").says("74x. Enter a number");
  await page.css("#target-1-distance").fill("74");
  await page.css("#target-1-height").fill("31");
  await page.css("[data-plan='0']").says("Use target 1 and Chapel spire: five pointings a face");
  await page.css("[data-drawing=side] [data-taken]").counts(2);
  await page.role("radio", "1", { exact: true }).click();
  await page.label("Result").says("pointings a face.");
  await page.button("Begin with").click();
  await at(ENTRY);
  await field("observations.targets[1].distance_m").reads("74");
});

it("pointings typed one face after the other are sorted in one touch", async () => {
  await open(`/bench/new/${await fresh("Tessaly")}/two-face`, { who: "Tam Brandreth" });
  await page.role("radio", "Quick").click();
  await start();
  const document = await simulate("two-face", 8, { pointings: 1, targets: [[90.1, 100]], closing: 0, noise: 0.3 });
  const [target] = document.observations.targets;
  for (const [face, other] of [
    ["left", "right"],
    ["right", "left"],
  ] as const) {
    for (const name of ["hz", "v"]) {
      await field(`observations.targets[0].${face}[0].${name}`).fill(target[other][0][name]);
    }
  }
  await page.button("First target: swap the faces.").click();
  await field("observations.targets[0].left[0].v").reads(target.left[0].v);
  await page.css("[data-complete=true][data-fresh=true] [data-finding]").some();
  await page.button("Undo").click();
  await field("observations.targets[0].left[0].v").reads(target.right[0].v);
});

it("rounds of directions and an accuracy full test are walked", async () => {
  await open();
  const tag = await fresh("Tessaly");
  const walked: [kind: string, truth: Record<string, unknown>][] = [
    ["direction-rounds", { c: 2, noise: 0.6 }],
    ["direction-accuracy", { arcsec: 2 }],
  ];
  for (const [kind, truth] of walked) {
    visit(`/bench/new/${tag}/${kind}`);
    await start();
    await fill(await simulate(kind, 5, truth));
    await finding("use");
    await page.css("[data-drawing=deviations]").there();
    await page.button("Save as found").click();
    await saved();
  }
  await page.css("[data-reason=not-worse-than-stated]").says("3″ stated");
  expect((await there().get(`instruments/${tag}`)).standing.state, "they decide nothing").toBe("check-first");
  visit(`/bench/new/${tag}`);
  await page.css("[data-check=direction-accuracy]").says("When needed");
});

it("a second run in the sheet is a repeat of its own", async () => {
  await open(`/bench/new/${await fresh("Merrow")}/circular-vial`, { who: "Ines Calder" });
  await page.role("radio", "Two headings, 180° apart").click();
  await start();
  const truth = { error_mm: [2, 0], headings: [0, 180], noise: 0.3 };
  await fill(await simulate("circular-vial", 6, truth));
  await page.button("Repeat it").click();
  await page.role("heading", "Repeat 2").there();
  const again = await simulate("circular-vial", 7, truth);
  for (const [i, row] of [...again.observations.readings.entries()]) {
    for (const name of ["x_mm", "y_mm"]) {
      await field(`observations.readings[${i + 2}].${name}`).fill(row[name]);
    }
  }
  await finding("adjust");
  await page.button("Save as found").click();
  await saved();
  const record = await recordHere();
  expect(record.document.observations.readings.map((reading: any) => reading.repeat)).toEqual([
    undefined,
    undefined,
    2,
    2,
  ]);
});

it("a level goes through its two peg test within the round", async () => {
  const level = await fresh("Merrow");
  await open(`/instruments/${level}`, { who: "Tam Brandreth" });
  await page.role("link", "Pre-work check").click();
  await page.role("radio", "15").click();
  await page.button("Begin: 3 checks, about 15 minutes").click();
  await at(ROUND);
  for (const [kind, why] of [
    ["circular-vial", "Equipment not available"],
    ["compensator-function", "Weather"],
  ] as const) {
    await page.css(`[data-step=${kind}]`).button("Leave out").click();
    await page.button(why).click();
  }
  await page.css("[data-step=compensator-function]").button("Do it after all").click();
  await page.css("[data-step=compensator-function][data-state=now]").there();
  await page.css("[data-step=compensator-function]").button("Leave out").click();
  await page.label("Another reason").fill("done yesterday");
  await page.role("dialog").button("Leave out").click();
  await page.css("[data-step=two-peg]").role("link", "Begin").click();
  await page.role("radio", "Stays in the ring").click();
  await page.role("radio", "Returns").click();
  await page.button("Start reading").click();
  await page.role("link", "Back to the pre-work check").there();
  await page.css("#row-observations-setups-0-a-readings-0").focus();
  await sheet(
    "1.6412;1.6410;1.6413;1.6411",
    "1.3907;1.3905;1.3906;1.3906",
    "1.5730;1.5733;1.5731;1.5731",
    "1.3229;1.3228;1.3229;1.3227",
  );
  await page.css("[data-complete=true][data-fresh=true] [data-finding]").some();
  await page.button("Save as found").click();
  await at(ROUND);
  await page.css("[data-step=two-peg][data-state=done]").there();
  await page.css("[aria-label='Outcome'] [data-finding]").says("Go");
  await page.css("[data-step=compensator-function]").says("Left out: done yesterday.");
});

it("circumstances are chips that say what is unknown and what it would change", async () => {
  await open(`/bench/new/${await fresh("Tessaly")}/two-face`);
  await page.button("Start reading").click();
  const chips = page.css("[data-circumstance]");
  await chips.counts(6);
  await page.css("[data-circumstance][data-known=false]").counts(6);
  await condition("minutes_on", "1");
  await page.css("[data-message=not-warm]").says("wait 2 minutes more");
  await page.css("[data-circumstance=shimmer]").click();
  await page.role("dialog").says("the pointings scatter more");
  await page.role("dialog").role("radio", "Strong").click();
  await page.css("[data-message=shimmer]").says("wait for cloud");
  await condition("shimmer", "None");
  await page.css("[data-message=shimmer]").counts(0);
  await page.css("[data-circumstance=minutes_on]").click();
  await page.button("Not known").click();
  await page.css("[data-message=warm-up-not-entered]").there();
});
