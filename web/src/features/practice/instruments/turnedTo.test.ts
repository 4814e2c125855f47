import { describe, expect, it } from "vitest";
import { turnedTo } from "./turnedTo";

describe("turnedTo", () => {
  it("keeps where a screw was turned round, and not the places on the way", () => {
    const to = [0.1, 0.2, 0.3, 0.25, 0.2, 0.4].reduce(turnedTo, [] as number[]);
    expect(to).toEqual([0.3, 0.2, 0.4]);
  });

  it("keeps the first way it went, also when it goes back through where it began", () => {
    expect([-0.2, 0.1].reduce(turnedTo, [] as number[])).toEqual([-0.2, 0.1]);
    expect([0.1, 0].reduce(turnedTo, [] as number[])).toEqual([0.1, 0]);
  });

  it("stays as it is when it is not turned", () => {
    const path = [0.3, 0.2];
    expect(turnedTo(path, 0.2)).toBe(path);
    expect(turnedTo([], 0)).toEqual([]);
  });
});
