// Eyes and hands at the simulated stand: what is seen of it, and how legs, screws and tribrach are dragged. Its time is
// stepped: a quarter of a second with every picture, as soon as the core has answered.
import { dragged, page, until, visit } from "./page";

/** So long a bubble is given to come to rest, by the stand's own clock. */
const REST_S = 1.6;
const ARCSEC = 206_265;
/** How far a hand moves the tripod across its whole drawing, and the tribrach for a unit of its own. */
const CARRY_MM = 1640;
const SLIDE_MM = 0.15;
const LEGS = { A: 0, B: 120, C: 240 };
const turn = (degrees: number): number => ((degrees % 360) + 360) % 360;
const radians = (degrees: number): number => (degrees * Math.PI) / 180;

export async function begun(lesson: string, number: number): Promise<void> {
  visit(`/practice/${lesson}?n=${number}`);
  await page.css("[data-bubble]").there();
  await until(() => seconds() > 0);
}

export const seconds = (): number => Number(page.css("[data-seconds]").attr("data-seconds"));

/** Some seconds by the stand's own clock. */
export async function passed(more: number): Promise<void> {
  const end = seconds() + more;
  await until(() => seconds() >= end);
}
export const rest = (): Promise<void> => passed(REST_S);

export function bubble(): { x: number; y: number; inside: boolean } {
  const seen = page.css("[data-bubble]");
  const [x = 0, y = 0] = seen.attr("data-at").split(" ").map(Number);
  return { x, y, inside: seen.attr("data-bubble") === "in" };
}
export function spot(): [x: number, y: number] {
  const [x = 0, y = 0] = page.css("[data-spot]").attr("data-spot").split(" ").map(Number);
  return [x, y];
}
export async function plate(): Promise<number> {
  await rest();
  return Number(page.css("[data-plate]").attr("data-plate"));
}
function figure(name: string): number | null {
  const text = page.css(`[data-${name}]`).words.replace("−", "-").replace("″", "").trim();
  return text === "—" ? null : Number(text);
}

/** The leg whose foot lies this way from the middle. */
function legTowards(bearing: number): string {
  const off = (of: number) => Math.abs(turn(bearing - of + 180) - 180);
  return Object.entries(LEGS).sort(([, a], [, b]) => off(a) - off(b))[0]?.[0] ?? "A";
}

/** Drag round a screw, clockwise positive, along an arc some way from its middle, where a hand turns finer. */
export async function turned(screw: string, degrees: number): Promise<void> {
  const thing = page.css(`[data-turn='${screw}']`);
  const [x, y, far] = ["cx", "cy", "r"].map((name) => Number(thing.attr(name))) as [number, number, number];
  const at = (angle: number, share: number): [number, number] => [
    x + far * share * Math.cos(radians(angle)),
    y + far * share * Math.sin(radians(angle)),
  ];
  const steps = Math.max(1, Math.ceil(Math.abs(degrees) / 12));
  const arc = Array.from({ length: steps + 1 }, (_, i) => at(-60 + (degrees * i) / steps, 3.4));
  await dragged(thing, at(-60, 0.85), ...arc);
}
/** A screw turned so that the axis tilts by so many seconds; it stands so many millimetres of lever from its partner. */
const turnedBy = (screw: string, arcsec: number, pitchOverLever: number): Promise<void> =>
  turned(screw, (arcsec / (pitchOverLever * ARCSEC)) * 360);
const BOTH = 1.4 / 86.6;
const ALONE = 0.7 / 75;

export const pair = (name: string): Promise<void> =>
  page.role("group", "Which screws turn together").button(name).click();

/** The bubble lies on the high side: the leg nearest to it is made shorter, a little at a time. */
export async function legsUntilInRing(): Promise<void> {
  for (let tries = 0; tries < 40; tries += 1) {
    await rest();
    const { x, y, inside } = bubble();
    if (inside) return;
    const size = Math.hypot(x, y) > 3.5 ? "5" : "1";
    await page.button(`Leg ${legTowards(turn((Math.atan2(x, y) * 180) / Math.PI))} shorter by ${size} mm`).click();
  }
  throw new Error("the bubble did not come into its ring");
}

/** By the electronic level: along the sight with screw 1, across it with 2 and 3 against each other. */
export async function screwsUntilLevel(): Promise<void> {
  for (let tries = 0; tries < 20; tries += 1) {
    await rest();
    const { x, y } = bubble();
    const [along, across] = [figure("along") ?? 240 * y, figure("across") ?? 240 * x];
    if (Math.abs(along) < 6 && Math.abs(across) < 6) return;
    if (Math.abs(across) >= 6) {
      await pair("2 and 3");
      await turnedBy("2", -across, BOTH);
    }
    if (Math.abs(along) >= 6) {
      await pair("One alone");
      await turnedBy("1", -along, ALONE);
    }
  }
  throw new Error("the axis did not come level");
}

/** Along two screws, turned by 90°, along the third; once more. `restsAt`: where the bubble is when it is level. */
export async function byThePlateVial(restsAt = 0): Promise<void> {
  // Its right end lies a quarter round from the sight: to the right at first, then towards the person.
  const sense: Record<number, number> = { 0: -1, 90: 1, 180: 1, 270: -1 };
  for (let rounds = 0; rounds < 4; rounds += 1) {
    let quiet = true;
    for (const [name, screw, per] of [
      ["2 and 3", "2", BOTH],
      ["One alone", "1", ALONE],
    ] as const) {
      for (let tries = 0; tries < 4; tries += 1) {
        const shown = (await plate()) - restsAt;
        if (Math.abs(shown) < 0.3) break;
        quiet = false;
        await pair(name);
        const heading = Number(page.css("[data-heading]").attr("data-heading")) % 360;
        await turnedBy(screw, (sense[heading] ?? NaN) * shown * 20, per);
      }
      await page.button("Turn by 90°").click();
    }
    await page.button("Turn by 180°").click();
    if (quiet) return;
  }
}

/** Four screws: along both diagonals, each pair against each other over 100 mm. */
export async function byOpposingPairs(): Promise<void> {
  for (let rounds = 0; rounds < 6; rounds += 1) {
    const east = await plate();
    await page.button("Turn by 90°").click();
    const north = -(await plate()); // turned by 90° its right end is towards the person
    for (let i = 0; i < 3; i += 1) await page.button("Turn by 90°").click();
    if (Math.abs(east) < 0.3 && Math.abs(north) < 0.3) return;
    // Screw 1 at 45°, 2 at 135°.
    for (const [name, screw, along] of [
      ["1 and 3", "1", east + north],
      ["2 and 4", "2", east - north],
    ] as const) {
      await pair(name);
      await turnedBy(screw, (-along / Math.SQRT2) * 20, 1.4 / 100);
    }
  }
  throw new Error("the axis did not come level");
}

/** Every foot, with a foot on its spur. */
export async function pressIn(): Promise<void> {
  for (const leg of Object.keys(LEGS)) await page.role("group", `Leg ${leg}`).button("Press in").click();
}
/** The laser times out: switched on again where it did. */
export async function laserOn(): Promise<void> {
  if (page.button("Switch laser on").count) await page.button("Switch laser on").click();
}

/** The tripod as it stands, dragged until what the plummet shows is near the mark. */
export async function carryOverTheMark(
  withinMm: number,
  seen: () => [number, number] | Promise<[number, number]> = spot,
): Promise<void> {
  const drawing = page.role("group", "The tripod from above").attr("viewBox").split(" ").map(Number)[2] ?? NaN;
  await ontoTheMark("[data-carry]", CARRY_MM / drawing, withinMm, seen);
}
/** The tribrach dragged on the head, a little at a time. */
export const slideOnToTheMark = (
  withinMm: number,
  seen: () => [number, number] | Promise<[number, number]> = spot,
): Promise<void> => ontoTheMark("[data-slide]", SLIDE_MM, withinMm, seen);

async function ontoTheMark(
  what: string,
  mmPerUnit: number,
  withinMm: number,
  seen: () => [number, number] | Promise<[number, number]>,
): Promise<void> {
  for (let tries = 0; tries < 8; tries += 1) {
    await rest();
    const [x, y] = await seen();
    if (Math.hypot(x, y) < withinMm) return;
    await dragged(page.css(what), [0, 0], [-x / 2 / mmPerUnit, y / 2 / mmPerUnit], [-x / mmPerUnit, y / mmPerUnit]);
  }
}

/** First the index, then the ground. */
export async function focusPlummet(): Promise<void> {
  await page.label("Focus on the index").fill("62");
  await page.label("Focus on the ground").fill("36");
}

/** The leg shortened that the plummet should move towards, then level again: a millimetre of it moves some two. */
export async function shiftByALeg(): Promise<void> {
  for (let tries = 0; tries < 6; tries += 1) {
    await laserOn();
    await rest();
    const [x, y] = spot();
    if (Math.hypot(x, y) < 4) return;
    const leg = legTowards(turn((Math.atan2(-x, -y) * 180) / Math.PI));
    for (let i = 0; i < Math.max(1, Math.round(Math.hypot(x, y) / 2.5)); i += 1)
      await page.button(`Leg ${leg} shorter by 1 mm`).click();
    await screwsUntilLevel();
  }
}

export async function finished(): Promise<void> {
  await rest();
  await page.button("Finish").click();
  await page.css("[data-passed]").has("data-passed", "true");
}
