// The three drawings of checks of rows: to scale, with what is the instrument's own kept separate from what is the stand's.
import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { CheckPicture } from "../CheckPicture";
import { CircleDrawing } from "./CircleDrawing";
import { DeviationsDrawing } from "./DeviationsDrawing";
import { TubeDrawing } from "./TubeDrawing";
import type { CirclePicture, DeviationsPicture, TubePicture } from "./types";

afterEach(cleanup);

const MARKS: CirclePicture = {
  draws: "circle",
  unit: "mm",
  points: [
    { x: 4, y: 2, label: "0°", path: "m[0]" },
    { x: 2, y: 2, label: "180°", path: "m[1]" },
  ],
  centre: { x: 3, y: 2 },
  radius: 1,
  centre_label: "axis",
  radius_label: "plummet offset",
  ring: null,
  limit: 0.5,
  limit_about: "centre",
  x_label: "right",
  y_label: "away",
  view: "Seen from above.",
};
const number = (element: Element | null | undefined, name: string): number => Number(element?.getAttribute(name));

describe("marks on a circle", () => {
  it("are drawn to one scale, their circle and the limit with them", () => {
    const { container } = render(<CircleDrawing picture={MARKS} />);
    const [first, second] = [...container.querySelectorAll("[data-point] circle")];
    const across = number(first, "cx") - number(second, "cx");
    const circles = [...container.querySelectorAll("svg > circle")];
    const limit = circles.find((circle) => circle.classList.contains("fill-band"));
    const own = circles.find((circle) => circle.hasAttribute("stroke-dasharray"));
    expect(across).toBeGreaterThan(0);
    // Two millimetres between the marks, one of radius, half of limit.
    expect(number(own, "r")).toBeCloseTo(across / 2);
    expect(number(limit, "r")).toBeCloseTo(across / 4);
    expect(number(own, "cx")).toBeCloseTo((number(first, "cx") + number(second, "cx")) / 2);
    expect(number(limit, "cx")).toBeCloseTo(number(own, "cx"));
  });
  it("draws away from you upwards", () => {
    const { container } = render(
      <CircleDrawing
        picture={{
          ...MARKS,
          points: [
            { x: 0, y: 0, label: "", path: "a" },
            { x: 0, y: 3, label: "", path: "b" },
          ],
          centre: null,
          radius: null,
        }}
      />,
    );
    const [near, far] = [...container.querySelectorAll("[data-point] circle")];
    expect(number(far, "cy")).toBeLessThan(number(near, "cy"));
    expect(container.querySelector("[data-centre]")).toBeNull();
  });
  it("is given in words to those who do not see it", () => {
    render(<CircleDrawing picture={MARKS} />);
    expect(screen.getByRole("img").getAttribute("aria-label")).toBe(
      "2 marks; the cross is axis, the circle plummet offset",
    );
  });
  it("shows a vial with its ring, and the limit about its middle", () => {
    const { container } = render(
      <CircleDrawing
        picture={{
          ...MARKS,
          ring: 4,
          limit: 0.5,
          limit_about: "origin",
          points: [{ x: 1, y: 0, label: "0°", path: "a" }],
          centre: { x: 1, y: 0 },
          radius: null,
        }}
      />,
    );
    const circles = [...container.querySelectorAll("svg > circle, svg > g > circle")];
    const ring = circles.find((circle) => circle.getAttribute("stroke-width") === "2.4");
    const limit = circles.find((circle) => circle.classList.contains("fill-band"));
    expect(number(ring, "r") / number(limit, "r")).toBeCloseTo(8);
    expect(number(ring, "cx")).toBeCloseTo(number(limit, "cx"));
    const bubble = container.querySelector("[data-point] circle");
    expect(number(bubble, "cx") - number(ring, "cx")).toBeCloseTo(number(ring, "r") / 4);
  });
  it("stands with nothing read yet", () => {
    const { container } = render(
      <CircleDrawing picture={{ ...MARKS, points: [], centre: null, radius: null, limit: null }} />,
    );
    expect(container.querySelectorAll("[data-point]")).toHaveLength(0);
    expect(container.innerHTML).not.toContain("NaN");
  });
});

const TUBE: TubePicture = {
  draws: "tube",
  rows: [
    { label: "right end 0°", bubble_div: -2, path: "r[0]", tilt_div: -1 },
    { label: "right end 180°", bubble_div: 0, path: "r[1]", tilt_div: 1 },
  ],
  rest_div: -1,
  half_div: 3,
};

describe("a tubular vial", () => {
  it("shows every heading's bubble and where it rests between them", () => {
    const { container } = render(<TubeDrawing picture={TUBE} />);
    const needle = (path: string) =>
      Number(
        /^M([\d.-]+)/.exec(
          container.querySelector(`[data-point='${path}'] path[stroke-width='3']`)?.getAttribute("d") ?? "",
        )?.[1],
      );
    const rest = Number(/^M([\d.-]+)/.exec(container.querySelector("[data-rest] path")?.getAttribute("d") ?? "")?.[1]);
    expect(rest).toBeCloseTo((needle("r[0]") + needle("r[1]")) / 2);
    expect(screen.getByText("reversing point")).toBeTruthy();
  });
  it("does not say where it rests before that is known", () => {
    const { container } = render(<TubeDrawing picture={{ ...TUBE, rest_div: null, rows: [] }} />);
    expect(container.querySelector("[data-rest]")).toBeNull();
    expect(screen.getByText("In divisions; right is plus.")).toBeTruthy();
    expect(container.innerHTML).not.toContain("NaN");
  });
});

const SHIFTS: DeviationsPicture = {
  draws: "deviations",
  unit: "arcsec",
  points: [
    { label: "tilted to the left", at: 0, value: 6 },
    { label: "tilted to the right", at: 1, value: -3 },
    { label: "run away", at: 2, value: null },
  ],
  limit: 6,
  zero_label: "bubble in the middle",
  along_label: "",
};

describe("deviations along a line", () => {
  it("puts a needle at the limit on the edge of the band, and the other way on the other side", () => {
    const { container } = render(<DeviationsDrawing picture={SHIFTS} />);
    const needle = (label: string) =>
      Number(
        /^M([\d.-]+)/.exec(
          container.querySelector(`[data-point='${label}'] path[stroke-width='4.5']`)?.getAttribute("d") ?? "",
        )?.[1],
      );
    const band = container.querySelector("rect");
    const left = number(band, "x");
    const width = number(band, "width");
    expect(needle("tilted to the left")).toBeCloseTo(left + width);
    expect(needle("tilted to the right")).toBeCloseTo(left + width / 4);
    expect(screen.getByText("+6.0″")).toBeTruthy();
    expect(screen.getByText("−3.0″")).toBeTruthy();
  });
  it.each([
    [16, 576, true],
    [20, 424, true],
    [60, 604, false],
  ])("draws %s places within %s units of height, figures beside them: %s", (count, tall, figures) => {
    const many = {
      ...SHIFTS,
      limit: null,
      points: Array.from({ length: count }, (_, i) => ({
        label: i === 0 ? "set 1" : "",
        at: i,
        value: i === 1 ? 2.5 : 1,
      })),
    };
    const { container } = render(<DeviationsDrawing picture={many} />);
    const [, , , height] = (container.querySelector("svg")?.getAttribute("viewBox") ?? "").split(" ");
    expect(Number(height)).toBe(tall);
    expect(container.querySelectorAll("[data-point]")).toHaveLength(count);
    expect(screen.queryByText("+2.5″") !== null).toBe(figures);
    expect(screen.getByText("set 1")).toBeTruthy();
  });
  it("names a place before it is read, without a figure", () => {
    const { container } = render(<DeviationsDrawing picture={SHIFTS} />);
    expect(container.querySelector("[data-point='run away'] path")).toBeNull();
    expect(screen.getByText("run away")).toBeTruthy();
  });
});

describe("the drawing of a check", () => {
  it("is chosen by what the core says it draws", () => {
    const { container, rerender } = render(<CheckPicture picture={MARKS} />);
    expect(container.querySelector("[data-drawing=circle]")).not.toBeNull();
    rerender(<CheckPicture picture={TUBE} />);
    expect(container.querySelector("[data-drawing=tube]")).not.toBeNull();
    rerender(<CheckPicture picture={SHIFTS} />);
    expect(container.querySelector("[data-drawing=deviations]")).not.toBeNull();
    rerender(<CheckPicture picture={undefined} />);
    expect(container.querySelector("[data-drawing=circle], [data-drawing=tube], [data-drawing=deviations]")).toBeNull();
  });
});
