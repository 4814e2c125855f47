// Readings that arrive go into the next open cells of the sheet, as if they had been typed; the last one can be taken back.
import { useEffect, useRef, useState } from "react";
import { type CheckDocument, type Draft } from "../../documents/draft";
import { openCells, quantitiesOf } from "../../documents/cells";
import type { Placed, Spot } from "../../documents/form";
import { textAt, withAt } from "../../documents/paths";
import { CORE_STARTS, type Line, type Placing, type Message, placeReadings } from "../../engine/devices";
import { askUntilAnswered } from "../../engine/own";
import { cellInWords } from "./cellInWords";
import type { Change } from "../../hooks/useDraft";
import { useReadings } from "../../hooks/useLink";

type Filled = Placing["placed"][number] & { where: string };
export type Arriving = {
  filled: Filled | null;
  count: number;
  message: Message | null;
  live: Line[];
  undo: () => void;
  takeLive: () => void;
};

const MAX_AT_ONCE = 200;

export function useArriving(
  draft: Draft,
  form: Placed[],
  at: Spot | null,
  change: Change,
  reveal: (path: string) => void,
): Arriving {
  const now = useRef({ document: draft.document, form, at });
  useEffect(() => {
    now.current = { document: draft.document, form, at };
  });
  const [filled, setFilled] = useState<Filled[]>([]);
  const [message, setMessage] = useState<Message | null>(null);
  const [live, setLive] = useState<Record<string, Line>>({});
  const shownBefore = useRef(new Set<string>());

  const here = useRef(true);
  useEffect(() => {
    here.current = true;
    return () => void (here.current = false);
  }, []);

  const report = (reasons: Message[], lines: Line[]) => {
    // A device this sheet does not ask is named once; after that it is passed over.
    const fresh = reasons.filter((each) => each.code !== "not-asked-for" || !shownBefore.current.has(each.text));
    for (const each of fresh) shownBefore.current.add(each.text);
    if (fresh.length) setMessage(fresh.at(-1) ?? null);
    else if (lines.length && !reasons.length) setMessage(null);
  };

  const place = async (lines: Line[]) => {
    for (let waiting = lines; waiting.length;) {
      const { document, form, at } = now.current;
      const query = () =>
        placeReadings(
          waiting.slice(0, MAX_AT_ONCE),
          openCells(document, form, at?.path ?? null),
          quantitiesOf(document, form),
        );
      const answer = await askUntilAnswered(
        query,
        () => setMessage(CORE_STARTS),
        () => here.current,
      );
      if (!answer) return;
      const put = (held: CheckDocument) =>
        answer.placed.reduce((grown, each) => withAt(grown, each.path, each.value), held);
      let taken = false;
      change((each) => {
        // Somebody may have typed there while it was asked: that stays, and the reading is placed again.
        taken = answer.placed.some(({ path }) => textAt(each.document, path).trim());
        now.current = { ...now.current, document: taken ? each.document : put(each.document) };
        return taken || !answer.placed.length ? each : { ...each, document: put(each.document) };
      });
      if (taken) continue;
      if (answer.placed.length) {
        const more = answer.placed.map((each) => ({
          ...each,
          where: cellInWords(now.current.document, form, each.path),
        }));
        setFilled((before) => [...before, ...more]);
        reveal(more.at(-1)?.path ?? "");
      }
      report(answer.messages, waiting);
      waiting = waiting.slice(MAX_AT_ONCE);
    }
  };

  useReadings(async ({ lines, live: latest }) => {
    if (latest.length)
      setLive((before) => ({
        ...before,
        ...Object.fromEntries(latest.map((line) => [`${line.device} ${line.quantity}`, line])),
      }));
    await place(lines);
  });

  const last = filled.at(-1) ?? null;
  const undo = () => {
    if (!last) return;
    setFilled((before) => before.slice(0, -1));
    change((each) =>
      textAt(each.document, last.path) === last.value
        ? { ...each, document: withAt(each.document, last.path, "") }
        : each,
    );
  };
  const quantities = quantitiesOf(draft.document, form);
  const shown = Object.values(live).filter((line) => quantities.includes(line.quantity));
  return { filled: last, count: filled.length, message, live: shown, undo, takeLive: () => void place(shown) };
}
