// Somebody who stands south looks north: north is up, east to the right; from the east, west is up and north to the right.
import { at, bearingOf, toward } from "./plan";

describe("bearings on the screen", () => {
  it.each([
    [0, 180, 0, -1],
    [90, 180, 1, 0],
    [180, 180, 0, 1],
    [270, 90, 0, -1],
    [0, 90, 1, 0],
    [90, 90, 0, 1],
  ])("bearing %d seen from %d", (bearing, stand, x, y) => {
    expect(toward(bearing, stand).x).toBeCloseTo(x, 12);
    expect(toward(bearing, stand).y).toBeCloseTo(y, 12);
  });

  it("are read back from a touch, whichever way the person stands", () => {
    for (const stand of [0, 37, 180, 300])
      for (const bearing of [0, 60, 179, 225, 359]) {
        const touch = at({ x: 100, y: 100 }, bearing, stand, 30);
        const answer = bearingOf({ x: touch.x - 100, y: touch.y - 100 }, stand);
        expect(answer.bearing).toBeCloseTo(bearing, 9);
        expect(answer.length).toBeCloseTo(30, 9);
      }
  });
});
