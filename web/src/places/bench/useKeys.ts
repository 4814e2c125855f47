// The hand on the keys: which reading each well holds, where Enter leads, what the bar above the keypad does.
import { useCallback, useLayoutEffect, useRef, useState } from "react";
import type { Draft } from "../../sheet/draft";
import type { Keys } from "./SightCell";
import type { WellKey } from "../../ui/Well";
import { useTyping } from "../../ui/useTyping";
import { type Spot, type Staff, countOf, distancePath, neighbour, oneMore, otherSign, putBack, sameAgain, sightOf, strike, threeWire, toggleWires, valueAt, wellId, withValue } from "../../sheet/entry";
import type { Change } from "../../ui/useDraft";

const SAVE_ID = "save-now";

type Goal = { id: string };

export function useKeys(draft: Draft, change: Change, save: () => void) {
  const [shown, setShown] = useState<Record<string, number>>({});
  const [at, setAt] = useState<Spot | null>(null);
  const focused = useTyping();
  const goal = useRef<Goal | null>(null);
  const { document, filled } = draft;

  const indexOf = useCallback(
    (setup: number, staff: Staff): number => {
      const last = countOf(sightOf(document, { setup, staff })) - 1;
      return Math.min(shown[`${setup}${staff}`] ?? last, last);
    },
    [document, shown],
  );

  // A well may only come into being with the change that leads to it.
  useLayoutEffect(() => {
    if (!goal.current) return;
    const element = window.document.getElementById(goal.current.id);
    if (!element) return;
    goal.current = null;
    element.focus();
    if (window.innerWidth < 760) element.scrollIntoView({ block: "center" });
  });
  const show = useCallback((where: Pick<Spot, "setup" | "staff">, index: number) => setShown((all) => ({ ...all, [`${where.setup}${where.staff}`]: index })), []);
  const go = useCallback((id: string) => {
    goal.current = { id };
    setShown((all) => ({ ...all }));
  }, []);

  const step = (spot: Spot, by: 1 | -1) => {
    const next = neighbour(document, filled, spot, by);
    if (next) return go(wellId(next));
    if (by === 1) go(SAVE_ID);
  };

  const key = (spot: Spot, what: WellKey) => {
    if (what === "save") return save();
    if (what === "next") return step(spot, 1);
    if (what === "back") return step(spot, -1);
    if (what === "sign") return type(spot, otherSign(valueAt(document, spot)));
    const three = threeWire(sightOf(document, spot));
    if (what === "wires") {
      change((one) => ({ ...one, ...toggleWires(one.document, spot, one.filled) }));
      return go(wellId({ ...spot, what: three ? "reading" : "upper" }));
    }
    const grown = what === "more" ? oneMore(document, spot) : sameAgain(document, spot);
    change((one) => ({ ...one, document: grown.document }));
    show(spot, grown.index);
    return go(wellId({ ...spot, what: three ? "upper" : "reading" }));
  };

  const type = (spot: Spot, value: string) =>
    change((one) => ({
      ...one,
      document: withValue(one.document, spot, value),
      filled: spot.what === "distance" ? one.filled.filter((path) => path !== distancePath(spot.setup, spot.staff)) : one.filled,
    }));

  const keys: Keys = {
    type,
    key,
    here: setAt,
    show: (where, index) => {
      show(where, index);
      const three = threeWire(sightOf(document, where));
      go(wellId({ ...where, what: three ? "middle" : "reading" }));
    },
    strike: (spot) => {
      change((one) => ({ ...one, document: strike(one.document, spot) }));
      show(spot, Math.max(0, countOf(sightOf(document, spot)) - 2));
    },
    putBack: (where, index) => change((one) => ({ ...one, document: putBack(one.document, where, index) })),
  };
  return { keys, indexOf, focused, bar: (what: WellKey) => at && key(at, what) };
}
