// The firm's control points: the list, a table brought in (looked at before it is stored), and out again.
import { fixed, written } from "../../api/writing";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { type Schemas, api, data } from "../../api/client";
import { pointsQuery } from "../../api/queries";
import { useNotify } from "../../app/notices";
import { useHere } from "../../app/session";
import type { Length } from "../../documents/draft";
import { SetUpTabs } from "../../ui/Tabs";
import { Choice, Dialog, Head, Trouble, Waiting } from "../../ui/parts";
import { UNITS, firmUnit } from "../../ui/units";

type Imported = Schemas["Imported"];

export function Points() {
  const points = useQuery(pointsQuery);
  const [params] = useSearchParams();
  const [q, setQ] = useState(params.get("q") ?? "");
  const [bringing, setBringing] = useState(false);
  const { may } = useHere();
  const right = may("manage-points");
  if (points.isPending) return <Waiting what="Loading the control points…" />;
  if (!points.data) return <Trouble error={points.error} />;
  const sought = q.trim().toLowerCase();
  const shown = points.data.points.filter((point) => point.name.toLowerCase().includes(sought) || point.description.toLowerCase().includes(sought));
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
            <button className="btn" aria-disabled={!right.allowed} title={right.text} onClick={() => right.allowed && setBringing(true)}>
              Import a table
            </button>
          </>
        }
      />
      {!right.allowed && <p className="sub">{right.text}</p>}
      {points.data.points.length > 8 && <input className="field max-w-[420px]" type="search" aria-label="Find a point" placeholder="Name or description" value={q} onChange={(event) => setQ(event.target.value)} />}
      {points.data.points.length > 0 && (
        <section className="card overflow-x-auto p-2" aria-label="Control points" tabIndex={0}>
          <PointTable points={shown} unit={points.data.unit} />
          {!shown.length && <p className="sub p-3">No control point of that name.</p>}
        </section>
      )}
      <Dialog title="Import a table of control points" open={bringing} onClose={() => setBringing(false)} wide>
        <BringIn onDone={() => setBringing(false)} />
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
            <th key={name} className="px-3 py-2 font-[600]">
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

function BringIn({ onDone }: { onDone: () => void }) {
  const client = useQueryClient();
  const notify = useNotify();
  const [unit, setUnit] = useState<Length>(firmUnit);
  const [text, setText] = useState("");
  const [looked, setLooked] = useState<Imported | null>(null);
  const [trouble, setTrouble] = useState<unknown>(null);
  const ask = async (table: string, store: boolean, inUnit: Length = unit) => {
    setTrouble(null);
    try {
      const answer = await data(api.POST("/api/points/table", { body: { text: table, unit: inUnit, store } }));
      if (!store) return setLooked(answer);
      await client.invalidateQueries({ queryKey: ["points"] });
      notify({ text: `${answer.new.length} new, ${answer.moved.length} moved.` });
      onDone();
    } catch (error) {
      setLooked(null);
      setTrouble(error);
    }
  };
  return (
    <div className="grid gap-4">
      <p className="sub">With a heading row, columns in any order: name, e, n, and where there are any h, description, unit. Semicolon, comma or tab; decimal point or comma.</p>
      <Choice label="Numbers without unit are in" value={unit} options={UNITS} onChange={(value) => { setUnit(value); if (text) void ask(text, false, value); }} />
      <input
        type="file"
        accept=".csv,.tsv,.txt"
        aria-label="The table"
        className="field file:mr-4 file:min-h-[44px] file:border-0 file:bg-transparent file:font-[640] file:underline"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void file.text().then((found) => { setText(found); void ask(found, false); });
          event.target.value = "";
        }}
      />
      <Trouble error={trouble} />
      {looked && (
        <div className="grid gap-2" data-looked>
          <p className="font-[600]">
            {looked.new.length} new, {looked.same.length} unchanged, {looked.moved.length} that would move.
          </p>
          {looked.moved.length > 0 && (
            <ul className="m-0 list-none p-0">
              {looked.moved.map((each) => (
                <li key={each.name}>
                  <span className="tag">{each.name}</span> would move by {fixed(each.by_mm, 1)} mm{each.rise_mm ? `, ${fixed(Math.abs(each.rise_mm), 1)} mm ${each.rise_mm > 0 ? "up" : "down"}` : ""}
                </li>
              ))}
            </ul>
          )}
          {looked.caution && <p className="caution">{looked.caution}</p>}
          <button className="btn now site" onClick={() => void ask(text, true)}>
            Save these points
          </button>
        </div>
      )}
    </div>
  );
}
