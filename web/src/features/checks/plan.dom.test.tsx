// The targets from the side: to scale, those to be taken kept separate, nothing off the paper.
import { render } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { type PlannedTarget, SideView } from "./SideView";

const target = (name: string, distance_m: number, height_m: number): PlannedTarget => ({
  name,
  distance_m,
  height_m,
  elevation_deg: 0,
  text: "",
  messages: [],
});
const at = (group: Element | undefined): [number, number] => {
  const [, x = "", y = ""] = /L([\d.]+) ([\d.-]+)/.exec(group?.querySelector("path")?.getAttribute("d") ?? "") ?? [];
  return [Number(x), Number(y)];
};

describe("targets from the side", () => {
  it("draws distance and height in one scale", () => {
    const { container } = render(
      <SideView targets={[target("plate", 100, 0), target("spire", 50, 25)]} take={[0, 1]} lines={[15, 30]} />,
    );
    const points = [...container.querySelectorAll("[data-point]")].map(at);
    const origin = 26;
    const [plate = [0, 0], spire = [0, 0]] = points;
    expect((plate[0] - origin) / (spire[0] - origin)).toBeCloseTo(2, 6);
    expect((plate[1] - spire[1]) / (plate[0] - origin), "25 m up on 100 m").toBeCloseTo(0.25, 6);
  });
  it("targets those that are to be taken", () => {
    const { container } = render(
      <SideView
        targets={[target("plate", 100, 0), target("gate", 40, 3), target("spire", 50, 25)]}
        take={[0, 2]}
        lines={[15, 30]}
      />,
    );
    expect([...container.querySelectorAll("[data-taken]")].map((each) => each.getAttribute("data-point"))).toEqual([
      "plate",
      "spire",
    ]);
  });
  it.each([[80], [-30], [0]])("keeps a target %s m high on the paper", (height) => {
    const { container } = render(
      <SideView targets={[target("it", 60, height), target("far", 200, 0)]} take={[0]} lines={[15, 30]} />,
    );
    const [, , , tall = "0"] = (container.querySelector("svg")?.getAttribute("viewBox") ?? "").split(" ");
    const [, y] = at([...container.querySelectorAll("[data-point]")][0]);
    expect(y).toBeGreaterThanOrEqual(0);
    expect(y).toBeLessThanOrEqual(Number(tall));
  });
});
