// The firm's control points: the list, a table brought in (looked at before it is stored), and out again.
import { written } from "../../api/writing";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import type { Schemas } from "../../api/client";
import { pointsQuery } from "../../api/queries";
import { useHere, usePerson } from "../../app/session";
import { heldTable } from "../../documents/heldTable";
import { SetUpTabs } from "../../ui/Tabs";
import { Dialog, Head, Trouble, Waiting } from "../../ui/parts";
import { firmUnit } from "../../ui/units";
import { BringIn } from "./BringIn";

export function Points() {
  const points = useQuery(pointsQuery);
  const [params] = useSearchParams();
  const [q, setQ] = useState(params.get("q") ?? "");
  const { username } = usePerson();
  // Back from saying which column is what, with the table in our own columns.
  const mapped = params.get("table") === "held" ? (heldTable(username)?.text ?? null) : null;
  const [bringing, setBringing] = useState(mapped !== null);
  const { may } = useHere();
  const right = may("manage-points");
  if (points.isPending) return <Waiting what="Loading the control points…" />;
  if (!points.data) return <Trouble error={points.error} />;
  const sought = q.trim().toLowerCase();
  const shown = points.data.points.filter(
    (point) => point.name.toLowerCase().includes(sought) || point.description.toLowerCase().includes(sought),
  );
  return (
    <div className="grid gap-4">
      <SetUpTabs />
      <Head
        title={points.data.points.length ? `${points.data.points.length} control points` : "No control points yet"}
        sub="Used by free stations and backsights. A control point is never moved to fit."
        actions={
          <>
            {points.data.points.length > 0 && (
              <a className="btn" href={`/api/points/table?unit=${firmUnit()}`} download>
                Export table
              </a>
            )}
            <button
              className="btn"
              aria-disabled={!right.allowed}
              title={right.text}
              onClick={() => right.allowed && setBringing(true)}
            >
              Import a table
            </button>
          </>
        }
      />
      {!right.allowed && <p className="sub">{right.text}</p>}
      {points.data.points.length > 8 && (
        <input
          className="field max-w-[420px]"
          type="search"
          aria-label="Find a point"
          placeholder="Name or description"
          value={q}
          onChange={(event) => setQ(event.target.value)}
        />
      )}
      {points.data.points.length > 0 && (
        <section className="card overflow-x-auto p-2" aria-label="Control points" tabIndex={0}>
          <PointTable points={shown} unit={points.data.unit} />
          {!shown.length && <p className="sub p-3">No control point of that name.</p>}
        </section>
      )}
      <Dialog title="Import a table of control points" open={bringing} onClose={() => setBringing(false)} wide>
        <BringIn mapped={mapped} onDone={() => setBringing(false)} />
      </Dialog>
    </div>
  );
}

function PointTable({ points, unit }: { points: Schemas["PointOut"][]; unit: string }) {
  return (
    <table className="w-full border-collapse">
      <thead>
        <tr className="text-left">
          {["Name", `Easting, ${unit}`, `Northing, ${unit}`, `Height, ${unit}`, "Description"].map((name) => (
            <th key={name} className="px-3 py-2 font-semibold">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {points.map((point) => (
          <tr key={point.name} className="border-t border-line" data-point={point.name}>
            <td className="tag px-3 py-2">{point.name}</td>
            {point.shown.map((text, i) => (
              <td key={i} className="px-3 py-2 font-mono">
                {written(text)}
              </td>
            ))}
            <td className="px-3 py-2">{point.description}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
