// Actions on several instruments at once: each leaves its own record; what is refused is named with its reason.
import { useQuery } from "@tanstack/react-query";
import { DropdownMenu } from "radix-ui";
import { useState } from "react";
import { Link } from "react-router";
import { peopleNamesQuery } from "../../api/queries";
import { useEventKind } from "../../app/eventKinds";
import { useHere, usePerson } from "../../app/session";
import { type Action, useEach } from "../../app/useEach";
import type { FleetRow } from "../../documents/fleet";
import { Dialog } from "../../ui/parts";
import { PermissionButton, ReasonForm } from "../../ui/permission";
import { PrintLabels } from "../../ui/PrintLabels";
import { Menu } from "../../ui/Menu";

type Pending = { title: string; text: string; word: string; action: Action };
const HOLD = { word: "Put on hold", text: "", action: { event: "held" } } as const;
const FIRST = { word: "Take out" } as const;
const counted = (rows: FleetRow[]): string => (rows.length === 1 ? (rows[0]?.tag ?? "") : `${rows.length} instruments`);

export function FleetActions({ rows, onDone }: { rows: FleetRow[]; onDone: () => void }) {
  const { may } = useHere();
  const person = usePerson();
  const people = useQuery(peopleNamesQuery).data ?? [];
  const { busy, each } = useEach(onDone);
  const eventKind = useEventKind();
  const [printing, setPrinting] = useState(false);
  const [asking, setAsking] = useState<Pending | null>(null);
  const crews =
    person.role === "manager"
      ? [...new Set(people.flatMap((one) => (one.crew ? [one.crew] : [])))].sort()
      : person.crew
        ? [person.crew]
        : [];
  const tags = rows.map((row) => row.tag);
  const held = rows.filter((row) => row.state === "hold").map((row) => row.tag);
  const waiting = rows.filter((row) => row.state === "check-first").map((row) => row.tag);
  const take = (crew: string) =>
    waiting.length
      ? setAsking({
          ...FIRST,
          title: `Take out ${counted(rows)}, ${crew} crew`,
          text: `${waiting.join(", ")} ${waiting.length === 1 ? "waits" : "wait"} for a check.`,
          action: { event: "out", crew },
        })
      : void each(tags, { event: "out", crew });
  return (
    <div
      className="fixed inset-x-3 bottom-3 z-20 flex flex-wrap items-center gap-3 rounded-md bg-ink px-4 py-1 text-card no-print tab:left-[124px] tab:right-7 max-tab:bottom-[68px] [&_.btn]:!text-card [&_.btn]:shadow-[inset_0_0_0_1.5px_var(--color-card)]"
      role="group"
      aria-label="Chosen instruments"
      data-chosen={rows.length}
    >
      <b className="min-w-[90px]">{busy === null ? `${rows.length} chosen` : `${busy} of ${rows.length}…`}</b>
      <Menu name="Take out for…" on={false}>
        {!may("take-out").allowed && <p className="px-3 py-2">{may("take-out").text}</p>}
        {held.length > 0 && <p className="max-w-[300px] px-3 py-2">On hold, stays here: {held.join(", ")}</p>}
        {may("take-out").allowed &&
          crews.map((crew) => (
            <DropdownMenu.Item key={crew} className="menu-item" onSelect={() => take(crew)}>
              {crew} crew
            </DropdownMenu.Item>
          ))}
      </Menu>
      <PermissionButton right={may("hand-in")} onPress={() => void each(tags, { event: "in" })}>
        Hand in
      </PermissionButton>
      <PermissionButton
        right={may("hold")}
        onPress={() => setAsking({ title: `Put ${counted(rows)} on hold?`, ...HOLD })}
      >
        Put on hold
      </PermissionButton>
      {rows.length > 1 && (
        <Link className="btn" to={`/compare?tags=${[...tags].sort().join(",")}`}>
          Compare
        </Link>
      )}
      <button className="btn" onClick={() => setPrinting(true)}>
        Labels
      </button>
      <PrintLabels tags={rows.map((row) => row.tag).sort()} open={printing} onClose={() => setPrinting(false)} />
      <button className="link !text-card ml-auto" onClick={onDone}>
        Clear
      </button>
      <Dialog title={asking?.title ?? ""} open={asking !== null} onClose={() => setAsking(null)}>
        {asking && (
          <ReasonForm
            text={[asking.text, eventKind(asking.action.event)?.follows].filter(Boolean).join(" ")}
            word={asking.word}
            onReason={(note) => {
              setAsking(null);
              void each(tags, { ...asking.action, note });
            }}
          />
        )}
      </Dialog>
    </div>
  );
}
