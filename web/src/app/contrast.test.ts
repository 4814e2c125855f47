// Contrasts calculated from the tokens themselves: text and figures 7:1, marks and borders 3:1 (WCAG 2 relative luminance).
import { readFileSync } from "node:fs";

const css = readFileSync("src/app/theme.css", "utf8");
const [normal = "", bright = ""] = css.split(':root[data-light="bright"]');

function tokens(text: string): Record<string, string> {
  return Object.fromEntries([...text.matchAll(/--color-([\w-]+):\s*(#[0-9a-f]{6})/gi)].map((m) => [m[1], m[2]]));
}

function luminance(hex: string): number {
  const [r, g, b] = [1, 3, 5].map((i) => {
    const c = parseInt(hex.slice(i, i + 2), 16) / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

export function contrast(a: string, b: string): number {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number];
  return (light + 0.05) / (dark + 0.05);
}

const TEXT = ["ink", "ink-2", "sea", "coral", "ochre", "lichen"];
const MARKS = ["field", "stroke", "lichen", "ink"];
const themes = { normal: tokens(normal), bright: { ...tokens(normal), ...tokens(bright.split("}")[0] ?? "") } };

it("knows the formula: black on white is 21", () => {
  expect(contrast("#000000", "#ffffff")).toBeCloseTo(21, 5);
  expect(contrast("#777777", "#ffffff")).toBeCloseTo(4.48, 2);
});

describe.each(Object.entries(themes))("%s light", (_, theme) => {
  it.each(["stone", "card", "input"].flatMap((ground) => TEXT.map((text) => [text, ground])))(
    "%s on %s is 7:1",
    (text, ground) => {
      expect(contrast(theme[text] as string, theme[ground] as string)).toBeGreaterThanOrEqual(7);
    },
  );
  it.each(["stone", "card"].flatMap((ground) => MARKS.map((mark) => [mark, ground])))(
    "mark %s on %s is 3:1",
    (mark, ground) => {
      expect(contrast(theme[mark] as string, theme[ground] as string)).toBeGreaterThanOrEqual(3);
    },
  );
  it("the coral button and the rail can be read", () => {
    expect(contrast(theme["on-coral"] as string, theme.coral as string)).toBeGreaterThanOrEqual(7);
    expect(contrast(theme["rail-text"] as string, "#10283b")).toBeGreaterThanOrEqual(7);
  });
});
