import { beforeEach, describe, expect, it } from "vitest";
import { currentJob, jobs, known, rememberJob, withUnit, workAtHand, workInWords } from "./work";

describe("what the work is", () => {
  beforeEach(() => localStorage.clear());

  it("is the firm's, until a job says otherwise; the job is remembered", () => {
    const firm = { sight_m: 45, balanced_sights: true };
    expect(workAtHand(firm)).toEqual(firm);
    rememberJob("flood wall line", { sight_m: "20 m", both_faces: true, elevation_deg: "" });
    expect(workAtHand(firm)).toEqual({ sight_m: "20 m", balanced_sights: true, both_faces: true });
    rememberJob("east abutment", { sight_m: "60 m" });
    expect([currentJob(), jobs().map((job) => job.name)]).toEqual([
      "east abutment",
      ["east abutment", "flood wall line"],
    ]);
    rememberJob("", {});
    expect(workAtHand(firm)).toEqual(firm);
  });

  it("keeps the unit its lengths were typed in: a job outlives a sheet in feet", () => {
    expect(withUnit({ sight_m: "150", sight_imbalance_m: "30 ft", elevation_deg: "20" }, "ft")).toEqual({
      sight_m: "150 ft",
      sight_imbalance_m: "30 ft",
      elevation_deg: "20",
    });
    expect(withUnit({ sight_m: 45 }, "ft")).toEqual({ sight_m: 45 });
    expect(known({ sight_m: "", class_of_work: "bridge bearings" })).toEqual({ class_of_work: "bridge bearings" });
  });

  it("reads in a few words", () => {
    expect(workInWords({}, "m")).toBe("30 m sights");
    expect(workInWords({ sight_m: "150", balanced_sights: true }, "ft")).toBe("150 ft sights, balanced");
    expect(workInWords({ sight_m: 45, both_faces: true, class_of_work: "bridge bearings" }, "ft")).toBe(
      "45 m sights, both faces, bridge bearings",
    );
  });

  it("that cannot be read is no work at all", () => {
    localStorage.setItem("naveta-jobs", "{broken");
    expect(jobs()).toEqual([]);
  });
});
