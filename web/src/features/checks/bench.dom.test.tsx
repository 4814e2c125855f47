// The bench's parts as a person meets them: inputs and their keys, the sheet, what the finding panel says when.
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { MemoryRouter } from "react-router";
import { NoSignal, type Preview, type Result } from "../../api/client";
import { type Draft, begin } from "../../documents/draft";
import { FindingPanel } from "./FindingPanel";
import { Sheet } from "./Sheet";
import { NumberField, type InputKey } from "../../ui/NumberField";
import { begunBy, kindNamed } from "../../documents/cases";
import { formOf } from "../../documents/form";
import { valueAt } from "../../documents/paths";
import type { Answered } from "../../hooks/useQuestion";
import { useKeys } from "./useKeys";
import { usePages } from "./usePages";
import type { Save } from "./useSave";

afterEach(cleanup);

function SingleInput({ typed, from = "" }: { typed: (key: InputKey, value: string) => void; from?: string }) {
  const [value, setValue] = useState(from);
  return (
    <NumberField
      id="w"
      label="reading"
      value={value}
      onType={setValue}
      onKey={(key) => typed(key, value)}
      onHere={() => undefined}
    />
  );
}

describe("an input", () => {
  it("keeps what is typed to the letter, whatever it is", async () => {
    render(<SingleInput typed={() => undefined} />);
    const input = screen.getByLabelText<HTMLInputElement>("reading");
    await userEvent.type(input, "5'3 1/4\" −x,.");
    expect(input.value).toBe("5'3 1/4\" −x,.");
    expect(input).toHaveProperty("inputMode", "decimal");
    expect(input.getAttribute("enterkeyhint")).toBe("next");
  });

  it.each([
    [";", "more"],
    ["*", "wires"],
    ["=", "same"],
  ])("hears %s wherever it comes from and does not write it", async (char, key) => {
    const typed = vi.fn();
    render(<SingleInput typed={typed} from="1.46" />);
    const input = screen.getByLabelText<HTMLInputElement>("reading");
    fireEvent.change(input, { target: { value: `1.468${char}` } }); // a telephone's keyboard sends no key of its own
    expect(typed).toHaveBeenCalledWith(key, expect.anything());
    expect(input.value).toBe("1.468");
  });

  it("takes Enter forward, Shift+Enter back and Ctrl+Enter to saving", () => {
    const typed = vi.fn();
    render(<SingleInput typed={typed} />);
    const input = screen.getByLabelText("reading");
    fireEvent.keyDown(input, { key: "Enter" });
    fireEvent.keyDown(input, { key: "Enter", shiftKey: true });
    fireEvent.keyDown(input, { key: "Enter", ctrlKey: true });
    expect(typed.mock.calls.map((call) => call[0])).toEqual(["next", "back", "save"]);
  });
});

const KIND_PEG = kindNamed("two-peg");

/** A sheet over a draft held in memory, as the bench holds it. */
function Held({ preview, seen, saved }: { preview: Preview | null; seen: (draft: Draft) => void; saved: () => void }) {
  const [draft, setDraft] = useState(() => {
    const document = begunBy("two-peg", "free");
    return begin({ kind: "two-peg", instrument: "LV-03", owner: "tam", document, begun: document.observations });
  });
  const change = (how: (item: Draft) => Draft) =>
    setDraft((now) => {
      const next = how(now);
      seen(next);
      return next;
    });
  const form = formOf(KIND_PEG, draft.document);
  const pages = usePages(draft.document, form);
  const { keys, at, bar } = useKeys(draft, form, change, saved, pages.reveal);
  return (
    <>
      <Sheet
        document={draft.document}
        form={form}
        pages={pages}
        preview={preview}
        keys={keys}
        at={at}
        onRemove={() => undefined}
        onRemoveEntry={() => undefined}
      />
      <button onClick={() => bar("sign")}>other sign</button>
    </>
  );
}

const EMPTY: Preview = {
  complete: false,
  missing: [],
  faults: [],
  progress: { unit: "m", next: null, looks: [], messages: [], outlier: null, fixes: [], notes: [] },
  picture: null,
};
const ON_A = "set-up 1, Staff on A, 1: Reading";

describe("the sheet", () => {
  it("is typed through without touching anything but the keyboard", async () => {
    let last: Draft | null = null;
    const saved = vi.fn();
    render(<Held preview={EMPTY} seen={(each) => (last = each)} saved={saved} />);
    const user = userEvent.setup();
    await user.click(screen.getByLabelText("set-up 1, To A: Distance"));
    await user.keyboard("30{Enter}1.468;1.469{Enter}30{Enter}1.210{Enter}56{Enter}1.5{Control>}{Enter}{/Control}");
    const { document } = last as unknown as Draft;
    expect(valueAt(document, "observations.setups[0]")).toEqual({
      a: { distance: "30", readings: ["1.468", "1.469"] },
      b: { distance: "30", readings: ["1.210"] },
    });
    expect(valueAt(document, "observations.setups[1].a")).toEqual({ distance: "56", readings: ["1.5"] });
    expect(saved).toHaveBeenCalledOnce();
  });

  it("lets a reading be struck and put back", async () => {
    let last: Draft | null = null;
    render(<Held preview={EMPTY} seen={(each) => (last = each)} saved={() => undefined} />);
    const user = userEvent.setup();
    await user.click(screen.getByLabelText(ON_A));
    await user.keyboard("1.4;1.5;1.6");
    await user.click(screen.getByLabelText(ON_A));
    await user.click(screen.getByRole("button", { name: /^Strike 1\.4,/ }));
    const readings = () => valueAt((last as unknown as Draft).document, "observations.setups[0].a");
    expect(readings()).toMatchObject({ readings: ["1.5", "1.6"], struck: ["1.4"] });
    await user.click(screen.getByRole("button", { name: /1\.4 is struck/ }));
    expect(readings()).toMatchObject({ readings: ["1.5", "1.6", "1.4"], struck: [] });
  });

  it("goes over to three wires by one key, and the star is not written", async () => {
    let last: Draft | null = null;
    render(<Held preview={EMPTY} seen={(each) => (last = each)} saved={() => undefined} />);
    const user = userEvent.setup();
    await user.click(screen.getByLabelText(ON_A));
    await user.keyboard("*1.65{Enter}1.50{Enter}1.35{Enter}");
    expect(valueAt((last as unknown as Draft).document, "observations.setups[0].a.wires")).toEqual([
      { upper: "1.65", middle: "1.50", lower: "1.35" },
    ]);
    expect(document.activeElement?.id).toBe("row-observations-setups-0-b-wires-0-upper");
    expect(screen.getByLabelText("set-up 1, To A: Distance").getAttribute("placeholder")).toBe("by three hairs");
  });

  it("puts a fault beside its own input, with what was typed and what is wanted", async () => {
    const fault = {
      path: "observations.setups[0].a.readings[0]",
      where: "first set-up, staff A, first reading",
      given: "1.4.2",
      wanted: "a number with one decimal mark",
    };
    render(<Held preview={{ ...EMPTY, faults: [fault] }} seen={() => undefined} saved={() => undefined} />);
    const input = screen.getByLabelText(ON_A);
    await userEvent.type(input, "1.4.2");
    expect(input.getAttribute("aria-invalid")).toBe("true");
    const answer = document.getElementById(input.getAttribute("aria-describedby") ?? "");
    expect(answer?.textContent).toContain("1.4.2. Enter a number with one decimal mark.");
    expect(screen.getByLabelText("set-up 1, Staff on B, 1: Reading").getAttribute("aria-invalid")).toBe("false");
  });

  it("marks the reading that is an outlier, and says beside its staff what the others spread by", async () => {
    const outlier = { path: "observations.setups[0].a.readings[0]", text: "1.5 is an outlier." };
    const notes = [{ path: "observations.setups[0].a", text: "Spread 100.0 mm." }];
    render(
      <Held
        preview={{ ...EMPTY, progress: { ...EMPTY.progress, outlier, notes } }}
        seen={() => undefined}
        saved={() => undefined}
      />,
    );
    await userEvent.type(screen.getByLabelText(ON_A), "1.5;1.4;1.4");
    expect(screen.getByLabelText(ON_A).closest("[data-outlier]")).toBeTruthy();
    expect(screen.getByText("1.5 is an outlier.")).toBeTruthy();
    expect(screen.getByText("Spread 100.0 mm.")).toBeTruthy();
    expect(screen.getByRole("button", { name: /^Strike 1\.5,/ })).toBeTruthy();
  });
});

const RESULT = {
  kind: "two-peg",
  result: {},
  finding: { text: "Line of sight 24.1″ up, ± 4.4″." },
  verdict: {
    grade: "adjust",
    reasons: [{ code: "beyond-limit", text: "Beyond the limit." }],
    next: [{ code: "save-as-found", text: "Save as found first." }],
    parts: [
      {
        quantity: "collimation_arcsec",
        value: 24.1,
        sigma: 2.2,
        u95: 4.4,
        dof: 30,
        basis: "pooled",
        proved_to: 27.8,
        limits: { use: 10, watch: 20, adjust: 120 },
        why: "",
        limit_text: "Limit 10″",
        grade: "adjust",
      },
    ],
    set_aside: [],
  },
  shown: [],
  picture: { draws: "pegs", baseline_m: null, pegs: [], setups: [] },
  work: [],
  cautions: [],
  worked: [],
  core_version: "0",
} as unknown as Result;

const KIND = {
  repeat_label: "Run it again from the other end",
  when_bad: [{ code: "real", title: "Confirm it", text: "Run it again." }],
  cautions: { reading: [{ code: "sun", text: "Never point the telescope at the sun." }] },
} as never;

function panel(saying: Partial<Answered<Preview>>, save: Partial<Save> = {}, more: Partial<Draft> = {}) {
  const draft = { ...begin({ kind: "two-peg", instrument: "LV-07", owner: "tam" }), ...more };
  const full: Save = { press: vi.fn(), busy: false, finished: false, allowed: true, why: "", leave: vi.fn(), ...save };
  const otherEnd = vi.fn();
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter>
        <FindingPanel
          draft={draft}
          saying={{ answer: null, fresh: true, faults: [], trouble: null, noSignal: false, wrong: null, ...saying }}
          kind={KIND}
          save={full}
          onAgain={otherEnd}
          onFix={() => undefined}
        />
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return { full, otherEnd, panel: within(screen.getByLabelText("Finding")) };
}

describe("the finding", () => {
  it("says what is read next before it is complete, and offers no saving", () => {
    const next = { path: "x", where: "second set-up, staff B, first reading" };
    panel({ answer: { ...EMPTY, progress: { ...EMPTY.progress, next } } });
    expect(screen.getByText("Next: second set-up, staff B, first reading")).toBeTruthy();
    expect(screen.queryByRole("button")).toBeNull();
    expect(screen.getByText(/Never point the telescope/)).toBeTruthy();
  });

  it("is a sentence with its grade, leads to the other end first, and has one coral button", async () => {
    const { full, otherEnd } = panel({ answer: { ...EMPTY, complete: true, reduced: RESULT } });
    expect(screen.getByText("Line of sight 24.1″ up, ± 4.4″.")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Run it again from the other end" }));
    expect(otherEnd).toHaveBeenCalledOnce();
    await userEvent.click(screen.getByRole("button", { name: "Save as found" }));
    expect(full.press).toHaveBeenCalledOnce();
    expect(document.querySelectorAll(".btn.now")).toHaveLength(1);
  });

  it("without signal keeps, says so, and can be saved once every input is filled", () => {
    panel({ wrong: new NoSignal() }, { finished: true }, { stage: "as-left" });
    expect(screen.getByText(/Offline\. Your readings are stored on this device\. Save it now/)).toBeTruthy();
    expect(screen.getByRole("button", { name: "Save as left" })).toBeTruthy();
    cleanup();
    panel({ wrong: new NoSignal() }, { finished: false });
    expect(screen.queryByRole("button")).toBeNull();
  });

  it("greys saving for a trainee with its sentence, and offers to leave it for the chief", async () => {
    const { full } = panel(
      { answer: { ...EMPTY, complete: true, reduced: RESULT } },
      { allowed: false, why: "A crew chief saves it." },
    );
    const save = screen.getByRole("button", { name: "Save as found" });
    expect(save.getAttribute("aria-disabled")).toBe("true");
    await userEvent.click(save);
    expect(full.press).not.toHaveBeenCalled();
    expect(screen.getByText("A crew chief saves it.")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Leave it for my crew chief" }));
    expect(full.leave).toHaveBeenCalledOnce();
  });
});
