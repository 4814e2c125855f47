import { afterEach, describe, expect, it } from "vitest";
import { answerWritten, bound, fixed, setWriting, written, type Writing } from "./writing";

const MEMBERS = {
  sentences: ["bring", "text", "wanted", "where", "worked.value"],
  guidance: ["bring"],
  verbatim: ["document"],
  distances: "\\b(\\d+(?:\\.\\d+)?)(?:( to )(\\d+(?:\\.\\d+)?))? m\\b",
  per_metre: 3.280839895,
};
const ROD: Writing = {
  ...MEMBERS,
  staff_word: "rod",
  decimal_mark: ",",
  length_unit: "ft",
  angle_unit: "dms",
  replacements: { staff: "rod", staffs: "rods", Staff: "Rod" },
};

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
      faults: [
        {
          path: "observations.setups[0].a",
          where: "staff A, first set-up",
          given: "14.020",
          wanted: "a reading up to 5.5 m",
        },
      ],
      verdict: { reasons: [{ code: "staff-out-of-plumb", text: "Both staffs differ by 3.5 mm." }] },
      bring: ["Two staffs 40 to 50 m away", "Feet 0.9 m apart, 2 mm scale"],
      worked: [{ label: "Mean", value: "0.70, 1.90 mm" }],
      options: [{ label: "Staff", value: "staff" }],
      value: 24.1,
    };
    const answer = answerWritten(preview);
    expect(answer.verdict.reasons[0]).toEqual({ code: "staff-out-of-plumb", text: "Both rods differ by 3,5\u00a0mm." });
    expect(answer.faults[0]).toEqual({
      path: "observations.setups[0].a",
      where: "rod A, first set-up",
      given: "14.020",
      wanted: "a reading up to 5,5\u00a0m",
    }); // the document's own unit
    expect(answer.bring).toEqual(["Two rods 130 to 160\u00a0ft away", "Feet 3\u00a0ft apart, 2\u00a0mm scale"]);
    expect([answer.worked[0]?.value, answer.options[0]?.value]).toEqual(["0,70, 1,90\u00a0mm", "staff"]);
    expect([answer.kind, answer.value, answer.document]).toEqual(["staff", 24.1, preview.document]);
    expect(fixed(24.12, 1)).toBe("24,1");
  });

  it("keeps a figure with its sign and unit on one line, for every firm, in sentences only", () => {
    setWriting({ ...ROD, staff_word: "staff", decimal_mark: ".", length_unit: "m", replacements: {} });
    const answer = answerWritten({
      text: "14″ up, ± 3″: 2.0 mm too high at 30 m, 12 °C, 5 ppm.",
      more: [{ text: "In 3 sets, 2 metres off, 4 mmHg" }],
      document: { text: "by 2 mm" },
      given: "3 mm",
    });
    expect(answer.text).toBe("14″ up, ±\u00a03″: 2.0\u00a0mm too high at 30\u00a0m, 12\u00a0°C, 5\u00a0ppm.");
    expect(answer.more).toEqual([{ text: "In 3 sets, 2 metres off, 4 mmHg" }]);
    expect([answer.document.text, answer.given]).toEqual(["by 2 mm", "3 mm"]);
    expect(bound("1 m 30 s")).toBe("1\u00a0m 30\u00a0s");
  });

  it("knows whole words only", () => {
    setWriting(ROD);
    expect(written("staffing 17123-2")).toBe("staffing 17123-2");
  });
});
