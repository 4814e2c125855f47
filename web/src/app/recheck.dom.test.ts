import { beforeEach, describe, expect, it, vi } from "vitest";
import { again, done, held, remindOf } from "./recheck";

describe("a set-up on soft ground", () => {
  beforeEach(() => {
    localStorage.clear();
    vi.useFakeTimers({ now: new Date("2027-03-02T06:40:00Z") });
  });

  it("is looked at again after its minutes, as often as wanted, until it is taken down", () => {
    remindOf("a", "TS-03 over PC-14", 10);
    expect(held()).toEqual([
      { id: "a", title: "TS-03 over PC-14", minutes: 10, at: Date.parse("2027-03-02T06:50:00Z") },
    ]);
    vi.setSystemTime(new Date("2027-03-02T06:55:00Z"));
    again(held()[0] as never);
    expect(held().map((each) => each.at)).toEqual([Date.parse("2027-03-02T07:05:00Z")]);
    done("a");
    expect(held()).toEqual([]);
  });

  it("is forgotten once nobody can be there any more, and never breaks a page", () => {
    remindOf("a", "TS-03 over PC-14", 10);
    vi.setSystemTime(new Date("2027-03-02T13:00:00Z"));
    expect(held()).toEqual([]);
    localStorage.setItem("naveta-recheck", "no list");
    expect(held()).toEqual([]);
  });
});
