import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { yardQuery } from "../api/queries";

/** Whether the fleet is here to choose from, so that a page can wait and not move under the finger. */
export const useFleetHere = () => !useInfiniteQuery(yardQuery("")).isPending;

/** Tags of the fleet as touches; a search narrows them. */
export function PickInstrument({ value, onChange, missing, kinds }: { value: string; onChange: (tag: string) => void; missing: boolean; kinds?: string[] }) {
  const [q, setQ] = useState("");
  const yard = useInfiniteQuery({ ...yardQuery(q), placeholderData: (before) => before });
  const rows = (yard.data?.pages.flatMap((page) => page.instruments) ?? []).filter((row) => !kinds || kinds.includes(row.kind));
  return (
    <fieldset className="m-0 grid gap-2 border-0 p-0">
      <legend className="pb-1 font-[600]">Which instrument</legend>
      {(rows.length > 8 || q) && <input className="field" type="search" aria-label="Find an instrument" placeholder="Tag, model, place or crew" value={q} onChange={(e) => setQ(e.target.value)} />}
      <div className="flex max-h-[260px] flex-wrap gap-2 overflow-auto p-1">
        {rows.map((row) => (
          <button
            key={row.tag}
            type="button"
            aria-pressed={value === row.tag}
            onClick={() => onChange(row.tag)}
            className="btn tag aria-pressed:!bg-ink aria-pressed:!text-card"
          >
            {row.tag}
          </button>
        ))}
      </div>
      {missing && <p className="fault">Choose the instrument first.</p>}
    </fieldset>
  );
}
