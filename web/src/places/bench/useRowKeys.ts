// The hand on the keys in a check of rows: where Enter leads, what the bar above the keypad does.
import { useLayoutEffect, useRef, useState } from "react";
import type { Draft } from "../../sheet/draft";
import { otherSign } from "../../sheet/entry";
import { type Group, type Spot, type Way, nextSpot, oneMore, pathOf, rowsOf, spotId, textAt, withAt } from "../../sheet/rows";
import type { Change } from "../../ui/useDraft";
import { useTyping } from "../../ui/useTyping";
import type { WellKey } from "../../ui/Well";

export type RowKeys = { type: (path: string, value: string) => void; key: (spot: Spot, key: WellKey) => void; here: (spot: Spot) => void; more: (group: Group) => void };

export function useRowKeys(draft: Draft, way: Way, change: Change, save: () => void): { keys: RowKeys; focused: boolean; bar: (key: WellKey) => void } {
  const { document } = draft;
  const [at, setAt] = useState<Spot | null>(null);
  const focused = useTyping();
  const goal = useRef<string | null>(null);
  const [, again] = useState(0);
  // A well may only come into being with the change that leads to it.
  useLayoutEffect(() => {
    if (!goal.current) return;
    const element = window.document.getElementById(goal.current);
    if (!element) return;
    goal.current = null;
    element.focus();
    if (window.innerWidth < 760) element.scrollIntoView({ block: "center" });
  });
  const go = (id: string) => {
    goal.current = id;
    again((n) => n + 1);
  };
  const type = (path: string, value: string) => change((one) => ({ ...one, document: withAt(one.document, path, value) }));
  const more = (group: Group) => {
    const grown = oneMore(document, group);
    if (!grown) return;
    change((one) => ({ ...one, document: grown.document }));
    go(spotId(grown.path));
  };
  const same = (spot: Spot) => {
    const above = spot.row === null ? "" : [...rowsOf(document, spot.group).keys()].filter((i) => i < (spot.row as number)).map((i) => textAt(document, pathOf(spot.group, spot.field, i)).trim()).filter(Boolean).pop();
    if (above) type(spot.path, above);
  };
  const key = (spot: Spot, what: WellKey) => {
    if (what === "save") return save();
    if (what === "sign") return type(spot.path, otherSign(textAt(document, spot.path)));
    if (what === "more") return more(spot.group);
    if (what === "same") return same(spot);
    if (what !== "next" && what !== "back") return;
    const next = nextSpot(document, way, spot.path, what === "next" ? 1 : -1);
    if (next) return go(spotId(next.path));
    if (what === "next") go("save-now");
  };
  return { keys: { type, key, here: setAt, more }, focused, bar: (what) => at && key(at, what) };
}
