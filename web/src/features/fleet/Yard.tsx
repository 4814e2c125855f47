// The yard: the fleet by what it needs now, each with its reason in words.
import { useInfiniteQuery } from "@tanstack/react-query";
import { Search } from "lucide-react";
import { useDeferredValue, useState } from "react";
import type { InstrumentRow } from "../../api/client";
import { yardQuery } from "../../api/queries";
import { useHere } from "../../app/session";
import { Head, Trouble, Waiting } from "../../ui/parts";
import { AddInstrument } from "./AddInstrument";
import { NoteEvent } from "../../ui/NoteEvent";
import { YardRow } from "./YardRow";
import { clock, plannedDay } from "../../ui/words";

const GROUPS: { title: string; states: string[] }[] = [
  { title: "Not today", states: ["hold"] },
  { title: "Check first", states: ["check-first"] },
  { title: "Ready", states: ["ready-if", "ready"] },
  { title: "Away", states: ["away"] },
];

export function Yard() {
  const { session, now, may } = useHere();
  const [typed, setTyped] = useState("");
  const [noting, setNoting] = useState(false);
  const [adding, setAdding] = useState(false);
  const wanted = useDeferredValue(typed);
  const yard = useInfiniteQuery({ ...yardQuery(wanted), placeholderData: (before) => before });
  const first = yard.data?.pages[0];
  const rows = yard.data?.pages.flatMap((page) => page.instruments) ?? [];
  return (
    <div className="grid gap-4">
      <Head
        title={first && !wanted ? first.summary : wanted ? "In the yard" : "Yard"}
        sub={`${plannedDay(now.toISOString(), session.time_zone)}, ${clock(now.toISOString(), session.time_zone)}`}
        actions={
          <>
            {may("manage-fleet").allowed && (
              <button className="btn" onClick={() => setAdding(true)}>
                Add an instrument
              </button>
            )}
            <button className="btn" onClick={() => setNoting(true)}>
              Report a knock or drop
            </button>
          </>
        }
      />
      <label className="relative block max-w-[460px]">
        <span className="sr-only">Find an instrument</span>
        <Search size={20} aria-hidden="true" className="pointer-events-none absolute left-3 top-[14px] text-ink-2" />
        <input className="field !pl-10" type="search" value={typed} onChange={(e) => setTyped(e.target.value)} placeholder="Tag, model, place or crew" autoComplete="off" />
      </label>
      {yard.isPending && <Waiting what="Loading the yard…" />}
      <Trouble error={yard.error} />
      {first && rows.length === 0 && <Nothing wanted={wanted} clear={() => setTyped("")} />}
      {rows.length > 0 && <Groups rows={rows} />}
      {yard.hasNextPage && (
        <button className="btn justify-self-center" disabled={yard.isFetchingNextPage} onClick={() => void yard.fetchNextPage()}>
          {yard.isFetchingNextPage ? "Loading…" : "Show more"}
        </button>
      )}
      <AddInstrument open={adding} onClose={() => setAdding(false)} />
      <NoteEvent open={noting} onClose={() => setNoting(false)} />
    </div>
  );
}

function Groups({ rows }: { rows: InstrumentRow[] }) {
  return (
    <section className="card pb-3" aria-label="Instruments by what they need">
      {GROUPS.map(({ title, states }) => {
        const mine = rows.filter((row) => states.includes(row.standing.state));
        if (!mine.length) return null;
        return (
          <div key={title} data-group={title}>
            <h2 className="px-4 pb-1 pt-4 tab:px-6">{title}</h2>
            <ul className="m-0 list-none divide-y divide-line p-0">
              {mine.map((row) => (
                <YardRow key={row.tag} row={row} />
              ))}
            </ul>
          </div>
        );
      })}
    </section>
  );
}

function Nothing({ wanted, clear }: { wanted: string; clear: () => void }) {
  if (!wanted)
    return (
      <section className="card grid gap-2 p-6">
        <h2>No instruments yet</h2>
        <p>The equipment manager adds them, each with its model and stated accuracy. They then appear here with what each needs.</p>
      </section>
    );
  return (
    <section className="card grid justify-items-start gap-3 p-6">
      <p>
        No instrument matches <b>{wanted}</b>. Tags can be typed in any form: lv7, LV 07.
      </p>
      <button className="btn" onClick={clear}>
        Show all
      </button>
    </section>
  );
}
