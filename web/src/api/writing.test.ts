import { afterEach, describe, expect, it } from "vitest";
import { answerWritten, fixed, setWriting, written, type Writing } from "./writing";

const MEMBERS = { sentences: ["bring", "text", "wanted", "where", "worked.value"], guidance: ["bring"], verbatim: ["document"], distances: "\\b(\\d+(?:\\.\\d+)?)(?:( to )(\\d+(?:\\.\\d+)?))? m\\b", per_metre: 3.280839895 };
const ROD: Writing = { ...MEMBERS, staff_word: "rod", decimal_mark: ",", length_unit: "ft", angle_unit: "dms", replacements: { staff: "rod", staffs: "rods", Staff: "Rod" } };

afterEach(() => setWriting(undefined));

describe("the firm's words and decimal mark", () => {
  it("leaves everything as it is for a firm that writes as the core does", () => {
    const answer = { text: "Staff B: 24.1″" };
    expect(answerWritten(answer)).toBe(answer);
    expect(written("Staff B: 24.1″")).toBe("Staff B: 24.1″");
  });

  it("writes rods and commas in sentences, and nowhere else", () => {
    setWriting(ROD);
    const preview = {
      kind: "staff",
      document: { remark: "staff 2", observations: { a: "1.468" } },
      faults: [{ path: "observations.setups[0].a", where: "staff A, first set-up", given: "14.020", wanted: "a reading up to 5.5 m" }],
      verdict: { reasons: [{ code: "staff-out-of-plumb", text: "Both staffs differ by 3.5 mm." }] },
      bring: ["Two staffs 40 to 50 m away", "Feet 0.9 m apart, 2 mm scale"],
      worked: [{ label: "Mean", value: "0.70, 1.90 mm" }],
      options: [{ label: "Staff", value: "staff" }],
      value: 24.1,
    };
    const answer = answerWritten(preview);
    expect(answer.verdict.reasons[0]).toEqual({ code: "staff-out-of-plumb", text: "Both rods differ by 3,5 mm." });
    expect(answer.faults[0]).toEqual({ path: "observations.setups[0].a", where: "rod A, first set-up", given: "14.020", wanted: "a reading up to 5,5 m" }); // the document's own unit
    expect(answer.bring).toEqual(["Two rods 130 to 160 ft away", "Feet 3 ft apart, 2 mm scale"]);
    expect([answer.worked[0]?.value, answer.options[0]?.value]).toEqual(["0,70, 1,90 mm", "staff"]);
    expect([answer.kind, answer.value, answer.document]).toEqual(["staff", 24.1, preview.document]);
    expect(fixed(24.12, 1)).toBe("24,1");
  });

  it("knows whole words only", () => {
    setWriting(ROD);
    expect(written("staffing 17123-2")).toBe("staffing 17123-2");
  });
});
