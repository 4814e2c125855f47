// A field sheet as a crew chief fills it: begun, typed cell by cell, its circumstances said, saved.
import { instrumentContext } from "../src/engine/instrumentContext";
import { type Found, at, otherDevice, page, press, type, until, visit } from "./page";
import { asked } from "./server";

const PREFIX: Record<string, string> = {
  Merrow: "LV",
  Aldreth: "TD",
  Tessaly: "TS",
  Reed: "PO",
  Strand: "TR",
  Tally: "ST",
  Ribbon: "TA",
};
let number = 30;

/** The tag of something of its own of a model, never checked. */
export async function fresh(model: string): Promise<string> {
  const ines = await otherDevice("Ines Calder");
  const models = await ines.get<{ name: string; id: number }[]>("models");
  number += 1;
  const tag = `${PREFIX[model]}-${number}`;
  const answer = await ines.send("POST", "instruments", {
    tag,
    model: models.find((each) => each.name === model)?.id,
    serial: "",
    place: "Yard",
    crew: null,
  });
  expect(answer.status).toBe(201);
  return tag;
}

/** A sheet of a simulated instrument with these errors. */
export const simulate = (kind: string, seed: number | string, truth: Record<string, unknown> = {}): Promise<any> =>
  asked("simulate", { kind, seed, truth });

/** From a check's first page to its sheet. */
export async function startReading(): Promise<void> {
  await page.button("Start reading").click();
  await page.label("Field sheet").there();
}

/** To the first reading of a two-peg test, both looks given. */
export async function begin(tag: string): Promise<void> {
  visit(`/bench/new/${tag}/two-peg`);
  await page.role("radio", "Stays in the ring").click();
  await page.role("radio", "Returns").click();
  await page.button("Start reading").click();
  await page.css("#row-observations-setups-0-a-readings-0").focus();
}

/** Sight after sight as one reads them: `1.468;1.469` is two readings. */
export async function sheet(...sights: string[]): Promise<void> {
  for (const [i, sight] of sights.entries()) {
    if (i) await press("Enter");
    await type(sight);
  }
}

/** A two-peg test of a level without an error, typed to its end. */
export async function goodTest(tag: string): Promise<void> {
  await begin(tag);
  await sheet("1.8851", "1.4020", "1.8852", "1.4021");
  await complete();
}

/** The finding answers what stands on the page. */
export const finding = (grade: string): Promise<unknown> =>
  page.css(`[data-complete=true][data-fresh=true] [data-finding=${grade}]`).some();
export const complete = (): Promise<unknown> => page.css("[data-complete=true][data-fresh=true]").some();

/** One circumstance of the sheet: its chip opened, answered and closed. `answer`: a number, or an option's label. */
export async function condition(name: string, answer: string): Promise<void> {
  await page.css(`[data-circumstance=${name}]`).click();
  const dialog = page.role("dialog");
  await dialog.there();
  const typed = dialog.role("textbox");
  if (typed.count) {
    await typed.fill(answer);
    await typed.press("Enter");
  } else await dialog.role("radio", answer, { exact: true }).click();
  await page.css(`[data-circumstance=${name}][data-known=true]`).there();
}

export const field = (path: string): Found => page.css(`#row-${path.replace(/\W+/g, "-").replace(/-$/, "")}`);

type Data = Record<string, any>;
/** Every figure of a document with its path, in the order in which it stands. */
export function leaves(held: unknown, path = "observations"): [path: string, text: string][] {
  if (Array.isArray(held)) return held.flatMap((each, i) => leaves(each, `${path}[${i}]`));
  if (held !== null && typeof held === "object")
    return Object.entries(held).flatMap(([key, each]) => leaves(each, `${path}.${key}`));
  return [[path, String(held)]];
}

const CHOICES: Record<string, string> = { yes: "Yes", no: "No", steel: "Steel" };
const NTH: Record<string, number> = { hinges_firm: 1, shoes_firm: 2, joints_firm: 1 };

/** What was read is typed, set by set where the sheet is long; what the method has filled in stays, a choice is touched. */
export async function fill(document: Data): Promise<void> {
  const sets = page.role("group", "Sets of this sheet").button(" readings");
  for (let i = 0; i < Math.max(1, sets.count); i += 1) {
    if (sets.count) await sets.nth(i).click();
    for (const [path, value] of leaves(document["observations"])) {
      const choice = CHOICES[value];
      if (choice)
        await page
          .role("radiogroup")
          .role("radio", choice)
          .nth(NTH[path.split(".").at(-1) ?? ""] ?? 0)
          .click();
      else if (field(path).count) await field(path).fill(value);
    }
  }
}

export async function switchUser(): Promise<void> {
  await page.button(/password, light, switch user/).click();
  await page.role("menuitem", "Switch user").click();
}
/** Whoever is at work is touched. */
export async function signIn(who: string): Promise<void> {
  await page.button(who).click();
  await page.text("Who is at work?").gone();
}
export const saved = (): Promise<unknown> => at(/^\/records\//);
/** The core stands here, and what is known of this instrument: nothing of it needs a signal any more. */
export const known = (tag: string): Promise<unknown> =>
  until(() => document.documentElement.dataset["coreStored"] === "yes" && instrumentContext(tag) !== null);

const QUICK = ["round-0", "round-1", "round-2", "round-3", "centring", "height-0", "height-1"];
/** A set-up recorded at once: level readings in both positions, what is off the mark, the height twice. */
export async function fillQuick(centring = "0.3", heights: [string, string] = ["1.603", "1.604"]): Promise<void> {
  const texts = ["4", "-2", "-2", "6", centring, ...heights];
  for (const [i, name] of QUICK.entries()) await page.css(`#${name}`).fill(texts[i] ?? "");
  await page.label("I checked bubble and mark together").click();
}
