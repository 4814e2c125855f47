// Reading the drawing of a simulated instrument, and turning its screws and circles.
import { type Found, dragged, page, there, until, visit } from "./page";
import { asked } from "./server";

/** More than any screw can be turned before it takes hold. */
const PLAY_TURNS = 0.1;
/** Where the hairs cross, in the drawing's own units. */
const MIDDLE = 210;
const ROUND = 1_296_000;

export type Hidden = { seed: number; errors: Record<string, number> };
/** A situation in which these errors are too much, and no other; and what is hidden in it. */
export const bad = (lesson: string, ...wrong: string[]): Promise<Hidden> => asked("hidden", { lesson, wrong });

export const tenth = (value: number): number => Math.round(value * 10) / 10;
export const mean = (values: number[]): number => values.reduce((sum, each) => sum + each, 0) / values.length;
export const near = (value: number, wanted: number, most: number): void =>
  expect(Math.abs(value - wanted), `${value} instead of ${wanted}`).toBeLessThanOrEqual(most);

export async function goToLesson(lesson: string, seed: number): Promise<void> {
  visit(`/practice/instruments/${lesson}?n=${seed}`);
  await page.button("Finish").there();
  await page.css("[data-blur], [data-bubble], [data-shown], [data-mark]").some();
}

/** Until the picture shows what was just turned. */
export const settled = (): Promise<unknown> => page.css("[data-looking][data-fresh=true]").some();

const blur = (): number => Number(page.css("[data-blur]").first().attr("data-blur"));

/** Turn the focus screw until the picture is sharp: over its whole range, then nearer. What was found. */
export async function focused(known?: string): Promise<string> {
  const control = page.label("Focus", { exact: true });
  const to = async (step: number | string) => {
    await control.fill(String(step));
    await settled();
  };
  if (known !== undefined) {
    await to(known);
    return known;
  }
  let [low, high, best] = [0, 100, 50];
  for (let round = 0; round < 3; round += 1) {
    let least = Infinity;
    for (let i = 0; i < 8; i += 1) {
      const step = Math.round(2 * (low + ((high - low) * i) / 7)) / 2;
      await to(step);
      if (blur() < least) [least, best] = [blur(), step];
    }
    const width = (high - low) / 6;
    [low, high] = [Math.max(0, best - width), Math.min(100, best + width)];
  }
  await to(best);
  return String(best);
}

/** Where a place lies between the two lines next to it, as an eye estimates it. */
export function between(selector: string, number: string, place: string, at: number): number {
  const lines = page
    .css(selector)
    .all()
    .map((line) => ({ at: Number(line.dataset[place]), counts: Number(line.dataset[number]) }))
    .sort((a, b) => a.at - b.at);
  const below = lines.filter((line) => line.at <= at).at(-1);
  const above = lines.find((line) => line.at > at);
  if (!below || !above) throw new Error(`no lines about ${at}: ${selector}`);
  return below.counts + ((above.counts - below.counts) * (at - below.at)) / (above.at - below.at);
}

/** The middle of the bubble between the divisions, to a tenth. */
export const bubble = (): number =>
  tenth(between("[data-division]", "division", "x", Number(page.css("[data-bubble]").attr("data-bubble"))));

/** Where the middle hair lies between two lines of the staff, as an eye estimates it: to the millimetre. */
export const onStaff = (): string =>
  (between("[data-line]", "line", "y", Number(page.css("[data-hair=middle]").attr("data-y"))) / 100).toFixed(3);

/** Where the index lies on the paper, to a tenth of a millimetre. */
export const onPaper = (): [number, number] => [
  tenth(between("[data-right]", "right", "x", MIDDLE)),
  tenth(between("[data-away]", "away", "y", MIDDLE)),
];

/** The target's middle from the hairs, in the drawing's units, right and down. */
export function offHairs(): [number, number] {
  const [x = NaN, y = NaN] = page.css("[data-target]").attr("data-target").split(" ").map(Number);
  return [x - MIDDLE, y - MIDDLE];
}
const farthest = (): number => Math.max(...offHairs().map(Math.abs));

/** Take the target and drag it to the middle, until it is near the hairs. */
async function nearer(within: number): Promise<void> {
  const target: Found = page.label("Target, through the telescope").css("[tabindex]").last();
  for (let tries = 0; tries < 8 && farthest() >= within; tries += 1) {
    const [x, y] = offHairs();
    await dragged(target, [MIDDLE + x, MIDDLE + y], [MIDDLE, MIDDLE]);
    await until(() => Math.hypot(offHairs()[0] - x, offHairs()[1] - y) > 1);
    await settled();
  }
}

async function look(name: string): Promise<void> {
  await page.button(name, { exact: true }).click();
  await settled();
}

/** The hairs on to the target: by hand over the whole field, looking closer, then a second at a time. */
export async function pointed(): Promise<void> {
  await nearer(12);
  await look("Look closer");
  await nearer(5);
  await page.role("radio", "1″", { exact: true }).click();
  for (let tries = 0; tries < 6 && farthest() >= 1.2; tries += 1) {
    const [x, y] = offHairs();
    if (Math.abs(x) >= 1.2) await page.button(x > 0 ? "Right" : "Left", { exact: true }).click();
    if (Math.abs(y) >= 1.2) await page.button(y > 0 ? "Down" : "Up", { exact: true }).click();
    await settled();
  }
  expect(farthest(), "the hairs are on the target").toBeLessThan(5);
  await look("Whole field");
}

/** A circle as it is typed. */
export function circle(name: string): string {
  const [degrees = "", minutes = "", seconds = ""] = page.css(`[data-circle=${name}]`).words.match(/\d+/g) ?? [];
  return `${Number(degrees)}.${minutes.padStart(2, "0")}${seconds.padStart(2, "0")}`;
}

/** 102.4305 as seconds. */
export function secondsOf(packed: string): number {
  const [degrees = "", after = ""] = packed.split(".");
  return Number(degrees) * 3600 + Number(after.slice(0, 2)) * 60 + Number(after.slice(2, 4));
}
/** A difference of circle readings, from minus to plus half a circle. */
export const within = (seconds: number): number => ((((seconds + ROUND / 2) % ROUND) + ROUND) % ROUND) - ROUND / 2;

/** Turn a screw a little, see what it does, then as much as is wanted; look again and turn by what is left. A screw has
 * play: who has turned too far goes back beyond and comes again from the same side. */
export async function turnUntil(screw: string, seen: () => number, wanted: number): Promise<void> {
  const slider = page.label(`Turns of the ${screw}`, { exact: true });
  const to = async (turns: number) => {
    await slider.fill(String(Math.round(turns * 1000) / 1000));
    await settled();
    return seen();
  };
  const before = seen();
  const perTurn = ((await to(0.1)) - before) / 0.1;
  const step = (turns: number) => Math.round(turns * 200) / 200;
  const turns = step((wanted - before) / perTurn);
  const left = wanted - (await to(turns));
  const last = step(turns + left / perTurn);
  const side = Math.sign(turns - 0.1) * PLAY_TURNS;
  if ((last - turns) * side < 0) await to(last - side);
  await to(last);
}

export async function turnedTo(heading: number): Promise<void> {
  await page.role("radio", `${heading}°`, { exact: true }).click();
  await settled();
}

export async function finish(passed: boolean): Promise<void> {
  await page.button("Finish").click();
  await until(() => page.css(`[data-passed=${passed}]`).count > 0);
}

/** A cell of the sheet: the end of its id. */
export const row = (path: string) => page.css(`#row-observations-${path}`);
export const found = () => page.label("Finding").there();
/** Waits until the server has a passed run of the lesson. */
export const passedOnRecord = (lesson: string) =>
  until(async () => {
    const progress = await there().get("practice/progress");
    return progress.lessons.find((each: any) => each.lesson === lesson).passed > 0;
  });
