import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useCallback, useState } from "react";
import { fleetQuery } from "../api/queries";
import { matches } from "../documents/fleet";
import { ScanButton } from "./Scan";
import { Lacking } from "./parts";

/** Whether the fleet is here to choose from, so that a page can wait and not move under the finger. */
export const useFleetHere = () => !useQuery(fleetQuery).isPending;

const MAX_ROWS = 60;

/** Tags of the fleet as touches; a search narrows them, Enter takes the first. `focused`: the search waits for typing; `searchable`: it stands there however few there are. */
export function PickInstrument({
  value,
  onChange,
  missing,
  kinds,
  focused = false,
  searchable = false,
}: {
  value: string;
  onChange: (tag: string) => void;
  missing: boolean;
  kinds?: string[];
  focused?: boolean;
  searchable?: boolean;
}) {
  const [q, setQ] = useState("");
  const all = (useQuery(fleetQuery).data?.rows ?? []).filter((row) => !kinds || kinds.includes(row.kind));
  const found = all.filter((row) => matches(row, q));
  const rows = found.slice(0, MAX_ROWS);
  const first = (event: KeyboardEvent) => {
    if (event.key !== "Enter" || !q || !rows[0]) return;
    event.preventDefault();
    onChange(rows[0].tag);
  };
  const scanned = useCallback(
    (tag: string) => (all.some((row) => row.tag === tag) ? onChange(tag) : setQ(tag)),
    [all, onChange],
  );
  return (
    <fieldset className="m-0 grid gap-2 border-0 p-0">
      <legend className="pb-1 font-semibold">Which instrument</legend>
      {(all.length > 8 || focused || searchable) && (
        <div className="flex gap-2">
          <input
            className="field"
            type="search"
            aria-label="Find an instrument"
            placeholder="Tag, model, place or crew"
            value={q}
            autoFocus={focused}
            onKeyDown={first}
            onChange={(e) => setQ(e.target.value)}
          />
          <ScanButton compact onTag={scanned} />
        </div>
      )}
      <div
        data-field="instrument"
        className={`flex flex-wrap ${searchable ? "max-h-[min(480px,60dvh)]" : "max-h-[260px]"} gap-2 overflow-auto p-1`}
      >
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
      {found.length > MAX_ROWS && (
        <p className="sub">{found.length - MAX_ROWS} more: type a part of the tag, model, place or crew.</p>
      )}
      {q && !found.length && <p className="sub">No instrument matches {q}.</p>}
      {missing && <Lacking at="instrument">Choose the instrument first.</Lacking>}
    </fieldset>
  );
}
