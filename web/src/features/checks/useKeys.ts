// The hand on the keys of a sheet: where Enter leads, what the bar above the keypad does.
import { useEffect, useLayoutEffect, useRef, useState } from "react";
import type { Draft } from "../../documents/draft";
import { type Entry, type Placed, type Spot, firstOpen, nextSpot } from "../../documents/form";
import { spotId, textAt, withAt } from "../../documents/paths";
import { addEntry, another, otherSign, putBack, sameAgain, strike, toggleInstead } from "../../documents/typing";
import type { Change } from "../../hooks/useDraft";
import { useTyping } from "../../hooks/useTyping";
import type { InputKey } from "../../ui/NumberField";

export type Keys = {
  /** Focus the first empty reading. */
  first: (of?: Draft["document"]) => void;
  type: (path: string, value: unknown) => void;
  key: (spot: Spot, key: InputKey) => void;
  here: (spot: Spot) => void;
  more: (group: Placed) => void;
  addEntry: (entry: Entry) => void;
  toggle: (group: Placed) => void;
  strike: (group: Placed, row: number) => void;
  putBack: (group: Placed, index: number) => void;
};

const SAVE_ID = "save-now";

/** Leads to an input that may only come into being with the change that leads to it. */
function useGoal(): (id: string) => void {
  const goal = useRef<string | null>(null);
  const [, again] = useState(0);
  useLayoutEffect(() => {
    if (!goal.current) return;
    const element = window.document.getElementById(goal.current);
    if (!element) return;
    goal.current = null;
    element.focus();
    if (window.innerWidth < 760) element.scrollIntoView({ block: "center" });
  });
  return (id) => {
    goal.current = id;
    again((n) => n + 1);
  };
}

/** Focus the first empty reading when a sheet opens, unless something else has the focus. */
export function useFirstReading(seen: boolean, keys: Keys): void {
  const led = useRef(false);
  useEffect(() => {
    if (!seen || led.current) return;
    led.current = true;
    const { activeElement, body } = window.document;
    if (activeElement === null || activeElement === body) keys.first();
  });
}

/** `at` is where was typed last: what belongs to one reading shows beside that one. */
export function useKeys(
  draft: Draft,
  form: Placed[],
  change: Change,
  save: () => void,
  reveal: (path: string) => void,
): { keys: Keys; at: Spot | null; focused: boolean; bar: (key: InputKey) => void } {
  const { document } = draft;
  const [at, setAt] = useState<Spot | null>(null);
  const focused = useTyping();
  const go = useGoal();
  const set = (next: Draft["document"]) => change((each) => ({ ...each, document: next }));
  const type = (path: string, value: unknown) =>
    change((each) => ({ ...each, document: withAt(each.document, path, value) }));
  const more = (group: Placed) => {
    const grown = another(document, group);
    if (!grown) return;
    set(grown.document);
    go(spotId(grown.path));
  };
  const same = (spot: Spot) => {
    const grown = sameAgain(document, spot);
    set(grown.document);
    go(spotId(grown.path));
  };
  const toggle = (group: Placed) => {
    if (!group.instead) return;
    set(toggleInstead(document, form, group, draft.begun));
    const first = group.byInstead ? group.own : `${group.instead.path}[0].${group.instead.fields[0]?.name}`;
    go(spotId(group.byInstead ? `${first}[0]` : first));
  };
  const step = (spot: Spot, by: 1 | -1) => {
    const next = nextSpot(document, form, spot.path, by);
    if (next) {
      reveal(next.path);
      return go(spotId(next.path));
    }
    if (by === 1) go(SAVE_ID);
  };
  const key = (spot: Spot, what: InputKey) => {
    const actions: Record<InputKey, () => void> = {
      save,
      sign: () => type(spot.path, otherSign(textAt(document, spot.path))),
      more: () => more(spot.group),
      same: () => same(spot),
      wires: () =>
        toggle(
          form.find(
            (each) => each.instead && (each.path === spot.group.path || each.own.startsWith(`${spot.group.path}.`)),
          ) ?? spot.group,
        ),
      next: () => step(spot, 1),
      back: () => step(spot, -1),
    };
    actions[what]();
  };
  const first = (of = document) => {
    const open = firstOpen(of, form);
    if (!open) return;
    reveal(open.path);
    go(spotId(open.path));
  };
  const keys: Keys = {
    first,
    type,
    key,
    here: setAt,
    more,
    addEntry: (entry) => set(addEntry(document, entry)),
    toggle,
    strike: (group, row) => set(strike(document, group, row)),
    putBack: (group, index) => set(putBack(document, group, index)),
  };
  return { keys, at, focused, bar: (what) => at && key(at, what) };
}
