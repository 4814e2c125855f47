// The plan as its users walk it: the morning, the knock at noon, the service, a rule and a job, on wide and small screens.
import { goTo, open, page, press, title, downloaded, fetched } from "./page";
import { fresh } from "./sheet";

it("every page of the plan", async () => {
  await open("/angles", { who: "Ines Calder" });
  await page.role("navigation", "Places").role("link", "Plan").click();
  await title.says("checks are due");
  await page.role("region", "Now").css("[data-due=LV-07]").says("excavator");
  await page.role("navigation", "Plan").role("link", "Calendar").click();
  await title.says("March 2027");
  await page.css("[data-day='2027-03-04']").says("East abutment pile heads");
  await page.css("[aria-current=date]").has("data-day", "2027-03-02");
  await page.button("Add to my calendar").click();
  const dialog = page.role("dialog");
  await dialog.button("Make an address").click();
  await dialog.label("Address", { exact: true }).there();
  const calendar = dialog.label("Address", { exact: true }).value;
  expect((await (await fetched(calendar)).text()).startsWith("BEGIN:VCALENDAR")).toBe(true);
  await dialog.button("Revoke: All instruments").click();
  await dialog.button("Revoke: All instruments").counts(0);
  expect((await fetched(calendar)).status).toBe(404);
  await press("Escape");
  await page.button("Month after").click();
  await title.says("April 2027");
  await page.role("navigation", "Plan").role("link", "Jobs").click();
  await page.css("[data-job]").counts(3);
  await page.role("navigation", "Plan").role("link", "Rules").click();
  await page.css("[data-rule=two-peg]").says("30 days");
});

it("a rule is tried before it is set and what cannot be is said", async () => {
  await open("/plan/rules", { who: "Ines Calder" });
  await page.button("Change: Tape check").click();
  const dialog = page.role("dialog");
  await dialog.label("A pass holds, days").fill("0");
  await dialog.button("See what it would change").click();
  await dialog.css("[data-fault=every_days]").says("1");
  await dialog.label("A pass holds, days").fill("60");
  await dialog.button("See what it would change").click();
  await dialog.role("status").says("Due now: 0. With this rule: 1.");
  await dialog.role("status").says("TA-01");
  await dialog.button("Save this rule").click();
  await page.css("[data-rule=tape]").says("60 days");
  await page.css("[data-rule=tape]").says("Ines Calder");
  await page.button("Change: Tape check").click();
  await page.button("Remove this rule").click();
  await page.css("[data-rule=tape]").says("default rule");
});

it("a job is planned and its checks come due before it", async () => {
  await open("/plan/jobs", { who: "Ines Calder" });
  await page.button("Plan a job").click();
  const dialog = page.role("dialog");
  await dialog.label("Name of the job").fill("Sluice gate");
  await dialog.label("First day").fill("2027-05-20");
  await dialog.label("Last day").fill("2027-05-10");
  await dialog.label("A large job").click();
  await dialog.button("Plan it").click();
  await dialog.css("[data-fault=ends_on]").says("20 May 2027");
  await dialog.label("Last day").fill("2027-05-24");
  await dialog.button("Plan it").click();
  await page.css("[data-job='Sluice gate']").says("20 May 2027 to 24 May 2027. All crews, large job.");
  goTo("/plan?crew=all&days=91");
  await page.role("region", "Weeks").says("Sluice gate");
  goTo("/plan/jobs");
  await page.button("Change: Sluice gate").click();
  await page.button("Take it off the plan").click();
  await page.css("[data-job='Sluice gate']").counts(0);
});

it("a check is skipped with a reason and that is taken back", async () => {
  await open("/plan?crew=all", { who: "Ines Calder" });
  await page.button("Skip: Two-peg test of LV-03").click();
  const dialog = page.role("dialog");
  await dialog.button("Skip it until then").click();
  await dialog.text("Enter a few words").there();
  await dialog.label("Why").fill("On the shelf until the wall line.");
  await dialog.button("Skip it until then").click();
  const skipped = page.text("Ines Calder: On the shelf until the wall line.");
  await skipped.there();
  await page.button("Undo").click();
  await skipped.counts(0);
  const now = page.role("region", "Now");
  await now.css("[data-due=LV-07]").button("Skip").counts(0);
});

it("the morning on a phone a reason then out a knock at noon and in at five", async () => {
  const tag = await fresh("Merrow");
  await open(`/instruments/${tag}`, { wide: 390 });
  await page.button("Take out").click();
  const dialog = page.role("dialog");
  await dialog.says("Never checked here");
  await dialog.button("Take out").click();
  await dialog.text("Enter a few words").there();
  await dialog.label("Why").fill("Its test is made at the creek.");
  await dialog.button("Take out").click();
  await page.button("Hand in").there();
  await page.button("Report what happened").click();
  await page.role("radio", "Soaked").click();
  await page.button("Report it").click();
  await page.css("[data-standing]").says("Soaked on 2 Mar 2027");
  await page.button("Hand in").click();
  await dialog.button("Hand in").click();
  await page.button("Take out").there();
});

it("a label is printed for one and for several", async () => {
  await open("/instruments/LV-09", { who: "Ines Calder" });
  await page.text("Passport").click();
  await page.button("Print its label").click();
  const dialog = page.role("dialog");
  await dialog.label("First free label").fill("24");
  const one = await downloaded(dialog.role("link", "Open the labels"));
  expect(one.text.startsWith("%PDF")).toBe(true);
  expect(one.from).toContain("first=24");
  goTo("/fleet?sort=tag");
  for (const tag of ["LV-02", "LV-03"]) {
    await page.css(`[data-instrument=${tag}]`).focus();
    await press("Space");
  }
  await page.button("Labels").click();
  await dialog.label("Printed on").choose("single");
  const several = await downloaded(dialog.role("link", "Open the labels"));
  expect(several.text.startsWith("%PDF")).toBe(true);
  expect(several.from).toContain("LV-02%2CLV-03");
});

it("to service and back", async () => {
  await open("/instruments/LV-09", { who: "Ines Calder" });
  await page.button("Send to service").click();
  await page.role("dialog").label("Where, and what for").fill("Tolvan workshop: yearly.");
  await page.role("dialog").button("Send to service").click();
  await title.says("away");
  await page.css("[data-standing]").says("At service since 2 Mar 2027: Tolvan workshop: yearly.");
  await page.button("Take out").counts(0);
  await page.button("Back from service").click();
  await page.role("dialog").label("What was done").fill("Cleaned.");
  await page.role("dialog").button("It is back").click();
  await title.says("check first");
  await page.css("[data-standing]").says("Back from service on 2 Mar 2027");
  await page
    .role("status")
    .with(/back from service/i)
    .some();
  await page.button("Undo").click();
  await title.says("away");
});
