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

// Every form a crew or a manager sends from a phone: pressed with something wrong, it leads to the field.
type Refused = { form: string; at: string; who?: string; press: () => Promise<unknown>; fault: string; field: string };
const inDialog = () => page.role("dialog");
const FORMS: Refused[] = [
  {
    form: "an instrument added",
    at: "/fleet",
    press: async () => {
      await page.button("Add an instrument").click();
      await inDialog().css("select").first().choose("Ondine Merrow");
      await inDialog().label("Tag").fill("!");
      await inDialog().button("Add it").click();
    },
    fault: "tag",
    field: "Tag",
  },
  {
    form: "a person added",
    at: "/settings/people",
    press: async () => {
      await page.button("Add a person").click();
      await inDialog().label("Sign-in name").fill("nobody");
      await inDialog().button("Add this person").click();
    },
    fault: "name",
    field: "Name",
  },
  {
    form: "a rule tried",
    at: "/plan/rules",
    press: async () => {
      await page.button("Change: Staff check").click();
      await inDialog().label("A pass holds, days").fill("0");
      await inDialog().button("See what it would change").click();
    },
    fault: "every_days",
    field: "A pass holds, days",
  },
  {
    form: "an address for the week",
    at: "/plan?crew=all",
    press: async () => {
      await page.button("By e-mail").click();
      await inDialog()
        .label(/e-mail address/)
        .fill("nobody@nowhere");
      await inDialog().button("Save").click();
    },
    fault: "email",
    field: "Your e-mail address",
  },
  {
    form: "a view kept",
    at: "/fleet?kind=level",
    press: async () => {
      await page.button("Views").click();
      await page.text("Keep this view").click();
      await inDialog().button("Keep it").click();
    },
    fault: "name",
    field: "Name",
  },
  {
    form: "a password of one's own",
    at: "/settings/you",
    press: async () => {
      await page.label("Current password").fill("not this one");
      await page.label("New password").fill("short");
      await page
        .button(/password/i)
        .last()
        .click();
    },
    fault: "old",
    field: "Current password",
  },
];

it.each(FORMS)("$form leads to what is wrong", async ({ at: place, who = "Ines Calder", press, fault, field }) => {
  await open("/angles", { who, wide: 390 });
  visit(place);
  await press();
  await page.css(`[data-fault=${fault}]`).first().there();
  await page.label(field).first().focused();
});
