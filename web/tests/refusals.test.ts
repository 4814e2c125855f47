// What was refused is led to, on a phone, where it stands out of view.
import { open, page, visit } from "./page";

it("what a press lacks on a phone is led to", async () => {
  await open("/angles", { wide: 390 });
  visit("/set-up");
  await page.button("TS-03").click();
  await page.button("Guide me").click();
  await page.css("#mark").focused();
  await page.css("[data-fault=mark]").says("Enter the point");
  (document.activeElement as HTMLElement).blur();
  await page.button("Guide me").click();
  await page.css("#mark").focused();
});

it("a station without its instrument leads to the instruments, a skipped check without a reason to the reason", async () => {
  await open("/orientation", { who: "Ines Calder", wide: 390 });
  await page.button(/^(Begin|Start)/).click();
  await page.css("[data-fault=instrument]").there();
  await page.css("[data-field=instrument] button").first().focused();
  visit("/plan?crew=all");
  await page.button("Skip: Two-peg test of LV-03").click();
  await page.button("Skip it until then").click();
  await page.css("[data-fault=note]").there();
  await page.label("Why").focused();
});

it("what an answer refuses is led to", async () => {
  await open("/plan/jobs", { who: "Ines Calder", wide: 390 });
  await page.button("Plan a job").click();
  await page.label("Name of the job").fill(" ");
  await page.label("First day").fill("2027-03-10");
  await page.button("Plan it").click();
  await page.css("[data-fault=name]").there();
  await page.label("Name of the job").focused();
});
