// The field sheet of a check of rows, typed as a person does: inputs, faults, the row that is an outlier, one more.
import { cleanup, render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useEffect, useState } from "react";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Kind, Preview } from "../../api/client";
import { type Draft, begin } from "../../documents/draft";
import { formOf } from "../../documents/form";
import { textAt } from "../../documents/paths";
import { removeRow } from "../../documents/typing";
import { Sheet } from "./Sheet";
import { useKeys } from "./useKeys";
import { usePages } from "./usePages";

afterEach(cleanup);

const number = (name: string, label: string, more: object = {}) => ({
  name,
  label,
  unit: "mm",
  kind: "number" as const,
  options: [],
  prefilled: false,
  optional: false,
  ask_again: false,
  quantity: "",
  ...more,
});
const common = {
  row_titles: [],
  note: "",
  repeats: false,
  instead: null,
  struck: "",
  each: null,
  setting: false,
  before: false,
};
const rows = { ...common, rows: true, most: 6, fewest: 2, more: "One more heading" };
const once = { ...common, rows: false, most: 1, fewest: 0, more: "" };
const METHOD = {
  name: "half-turn",
  title: "Two headings, 180° apart",
  good_for: "",
  groups: [
    {
      path: "observations",
      title: "Quick checks first",
      fields: [
        number("holds", "Does it hold?", {
          kind: "choice",
          options: [
            { value: "yes", label: "Yes", hint: "" },
            { value: "no", label: "No", hint: "" },
          ],
        }),
      ],
      ...once,
    },
    {
      path: "observations.readings",
      title: "The bubble",
      fields: [number("heading_deg", "Heading", { prefilled: true, unit: "°" }), number("x_mm", "Right")],
      ...rows,
    },
    {
      path: "observations.centre",
      title: "Middle",
      fields: [number("", "Staff", { kind: "length" })],
      ...rows,
      more: "One more reading here",
    },
  ],
  steps: [],
  caution: [],
  unit: "",
} as unknown as Kind["methods"][number];
const KIND = { kind: "circular-vial", methods: [METHOD], groups: METHOD.groups } as unknown as Kind;
const BEGUN = {
  kind: "circular-vial",
  method: "half-turn",
  units: { length: "m" as const },
  observations: { readings: [{ heading_deg: "0" }, { heading_deg: "180" }], centre: ["", ""] },
};
const NOTHING_YET = { unit: "m", next: null, looks: [], messages: [], outlier: null, fixes: [], notes: [] };
const preview = (more: Partial<Preview>): Preview => ({
  complete: false,
  missing: [],
  faults: [],
  progress: NOTHING_YET,
  picture: null,
  ...more,
});

let latest: Draft;
const save = vi.fn();
function Typing({ answer = null }: { answer?: Preview | null }) {
  const [draft, setDraft] = useState(() =>
    begin({ kind: "circular-vial", instrument: "TD-01", owner: "tam", document: BEGUN }),
  );
  useEffect(() => {
    latest = draft;
  });
  const form = formOf(KIND, draft.document);
  const pages = usePages(draft.document, form);
  const { keys, at } = useKeys(draft, form, (how) => setDraft((now) => how(now)), save, pages.reveal);
  return (
    <Sheet
      document={draft.document}
      form={form}
      pages={pages}
      preview={answer}
      keys={keys}
      at={at}
      onRemove={(group, row) => setDraft({ ...draft, document: removeRow(draft.document, group, row) })}
      onRemoveEntry={() => undefined}
    />
  );
}
const typed = (path: string) => textAt(latest.document, `observations.${path}`);

describe("a sheet of rows", () => {
  it("is typed by the keyboard alone, headings skipped, one more row at the end", async () => {
    const person = userEvent.setup();
    render(<Typing />);
    await person.click(screen.getByLabelText("The bubble, 1: Right"));
    await person.keyboard("0,6{Enter}-0.4");
    expect([typed("readings[0].x_mm"), typed("readings[1].x_mm")]).toEqual(["0,6", "-0.4"]);
    await person.keyboard(";");
    expect(document.activeElement).toBe(screen.getByLabelText("The bubble, 3: Heading"));
    await person.keyboard("90{Enter}=");
    expect([typed("readings[2].heading_deg"), typed("readings[2].x_mm")]).toEqual(["90", "-0.4"]);
    await person.keyboard("{Enter}");
    expect(document.activeElement).toBe(screen.getByLabelText("Middle, 1: Staff"));
    await person.keyboard("{Shift>}{Enter}{/Shift}");
    expect(document.activeElement).toBe(screen.getByLabelText("The bubble, 3: Right"));
    await person.keyboard("{Control>}{Enter}{/Control}");
    expect(save).toHaveBeenCalledOnce();
  });
  it("asks what is looked at by touch, and keeps the answer", async () => {
    const person = userEvent.setup();
    render(<Typing />);
    await person.click(
      within(screen.getByRole("radiogroup", { name: "Does it hold?" })).getByRole("radio", { name: "No" }),
    );
    expect(typed("holds")).toBe("no");
  });
  it("lays the readings of one place side by side, named in the sheet's own unit", async () => {
    const person = userEvent.setup();
    render(<Typing />);
    const group = screen.getByRole("group", { name: "Middle" });
    expect(within(group).getAllByRole("textbox")).toHaveLength(2);
    await person.type(screen.getByLabelText("Middle, 2: Staff"), "1.4702");
    await person.click(within(group).getByRole("button", { name: "One more reading here" }));
    expect(within(group).getAllByRole("textbox")).toHaveLength(3);
    expect(typed("centre[1]")).toBe("1.4702");
  });
  it("takes a row away where more than two stand", async () => {
    const person = userEvent.setup();
    render(<Typing />);
    expect(screen.queryByRole("button", { name: /Remove row/ })).toBeNull();
    await person.click(screen.getByRole("button", { name: "One more heading" }));
    await person.click(screen.getByRole("button", { name: "Remove row 1, The bubble" }));
    expect(typed("readings[0].heading_deg")).toBe("180");
  });
  it("says beside its row what is wrong, and marks the one that is an outlier with what fixes it", () => {
    const fault = {
      path: "observations.readings[1].x_mm",
      where: "second reading, right",
      given: "1.x",
      wanted: "a number",
    };
    const outlier = {
      path: "observations.readings[0]",
      text: "The first reading does not agree with the others: read it again.",
    };
    const { container } = render(
      <Typing answer={preview({ faults: [fault], progress: { ...NOTHING_YET, outlier: outlier } })} />,
    );
    expect(
      within(container.querySelector("[data-row='observations.readings[1]']") as HTMLElement).getByRole("alert")
        .textContent,
    ).toContain("1.x. Enter a number");
    const marked = container.querySelector("[data-row='observations.readings[0]']") as HTMLElement;
    expect(marked.hasAttribute("data-outlier")).toBe(true);
    expect(marked.textContent).toContain("read it again");
    expect(screen.getByLabelText("The bubble, 2: Right").getAttribute("aria-invalid")).toBe("true");
    expect(screen.getByLabelText("The bubble, 1: Right").getAttribute("aria-invalid")).toBe("false");
  });
  it("says at the foot what belongs to no row", () => {
    render(
      <Typing
        answer={preview({
          faults: [{ path: "observations.method", where: "how it is held", given: "turn", wanted: "another way" }],
        })}
      />,
    );
    expect(screen.getByText(/another way/)).toBeTruthy();
  });
});
