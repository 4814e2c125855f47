import { beforeEach, describe, expect, it } from "vitest";
import { clock, day, isoDay, moment, plannedDay, setZone } from "./words";

const minutes = (text: string): number => Date.parse(text) / 60_000;

describe("days and moments", () => {
  beforeEach(() => {
    setZone("America/Winnipeg", [
      [minutes("2000-01-01T00:00Z"), -360],
      [minutes("2026-03-08T08:00Z"), -300],
      [minutes("2026-11-01T07:00Z"), -360],
    ]);
  });

  it("writes a day without a time as it stands, in any zone", () => {
    for (const zone of ["UTC", "America/Winnipeg"]) {
      expect(day("2027-03-02", zone)).toBe("2 Mar 2027");
      expect(plannedDay("2027-03-02", zone)).toBe("Tuesday 2 March 2027");
    }
  });

  it("writes a moment by the firm's clock, on either side of its change", () => {
    expect(moment("2026-03-08T07:59:00Z", "America/Winnipeg")).toBe("8 Mar 2026, 01:59");
    expect(moment("2026-03-08T08:00:00Z", "America/Winnipeg")).toBe("8 Mar 2026, 03:00");
    expect(clock("2026-11-01T06:59:59Z", "America/Winnipeg")).toBe("01:59");
    expect(clock("2026-11-01T07:00:00Z", "America/Winnipeg")).toBe("01:00");
    expect(moment("1999-06-01T12:00:00Z", "America/Winnipeg")).toBe("1 Jun 1999, 06:00");
  });

  it("keeps the firm's day at midnight, and takes another zone as UTC", () => {
    expect(isoDay(new Date("2027-03-02T05:30:00Z"), "America/Winnipeg")).toBe("2027-03-01");
    expect(isoDay(new Date("2027-03-02T05:30:00Z"), "UTC")).toBe("2027-03-02");
    expect(plannedDay("2027-03-02T05:30:00+00:00", "America/Winnipeg")).toBe("Monday 1 March 2027");
    expect(day("2026-09-05T12:00:00Z", "UTC")).toBe("5 Sep 2026");
  });
});
