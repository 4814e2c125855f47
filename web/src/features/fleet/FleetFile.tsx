// The fleet as a file: out; in with a look at what each row would do, and a way back while nothing was built on it.
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { fetchAgain } from "../../api/again";
import { type Schemas, api, data } from "../../api/client";
import { useNotify } from "../../app/notices";
import { useHere } from "../../app/session";
import { FileInput, TABLES } from "../../ui/FileInput";
import { Dialog, Trouble } from "../../ui/parts";
import { isoDay } from "../../ui/words";
import { useTrouble } from "../../ui/refusal";

type Look = Schemas["TableLook"];
type Row = Schemas["TableRow"];

export default function FleetFile({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { may } = useHere();
  return (
    <Dialog title="The fleet as a file" wide open={open} onClose={onClose}>
      <div className="grid gap-5">
        <div className="grid gap-2">
          <h3 className="font-bold">Export</h3>
          <p className="sub">Every instrument with its status, as CSV for any spreadsheet.</p>
          <a className="btn justify-self-start" href="/api/fleet/table" download>
            Export the fleet
          </a>
        </div>
        <MonthReport />
        {may("manage-fleet").allowed && <BringIn onDone={onClose} />}
      </div>
    </Dialog>
  );
}

/** One month of the whole fleet on paper; the month that runs at first. */
function MonthReport() {
  const { now, session } = useHere();
  const [month, setMonth] = useState(() => isoDay(now, session.time_zone).slice(0, 7));
  return (
    <div className="grid gap-2 border-t border-line pt-4">
      <h3 className="font-bold">Report of a month</h3>
      <p className="sub">Where everything stands, every check and event of the month, what is due, as PDF.</p>
      <div className="flex flex-wrap gap-3">
        <input
          className="field !w-auto"
          type="month"
          aria-label="Month"
          value={month}
          max={isoDay(now, session.time_zone).slice(0, 7)}
          onChange={(event) => setMonth(event.target.value)}
        />
        <a className="btn" href={`/api/fleet/report?month=${month}`} target="_blank" rel="noreferrer">
          Open the report
        </a>
      </div>
    </div>
  );
}

function useImport(onDone: () => void) {
  const client = useQueryClient();
  const notify = useNotify();
  const [look, setLook] = useState<Look | null>(null);
  const [trouble, setTrouble] = useTrouble();
  const again = () => fetchAgain(client);
  const undo = async (id: number) => {
    await data(api.DELETE("/api/fleet/imports/{pk}", { params: { path: { pk: id } } }));
    await again();
  };
  const ask = async (text: string, store: boolean) => {
    setTrouble(null);
    try {
      const answer = await data(api.POST("/api/fleet/table", { body: { text, store } }));
      if (!store) return setLook(answer);
      await again();
      const { id } = answer;
      notify({ text: `Imported: ${summary(answer.rows)}.`, ...(id === null ? {} : { undo: () => undo(id) }) });
      onDone();
    } catch (error) {
      setLook(null);
      setTrouble(error);
    }
  };
  return { look, trouble, ask };
}

function BringIn({ onDone }: { onDone: () => void }) {
  const [text, setText] = useState("");
  const { look, trouble, ask } = useImport(onDone);
  const changing = look?.rows.some((row) => row.does !== "same") ?? false;
  return (
    <div className="grid gap-3 border-t border-line pt-4">
      <h3 className="font-bold">Import</h3>
      <p className="sub">
        With a heading row, columns in any order: tag, maker, model, and if you like kind, serial, place, crew, since. A
        new model needs its kind. Nothing is stored before you have seen what each row does.
      </p>
      <FileInput
        accept={TABLES}
        label="The table"
        onFile={(file) =>
          void file.text().then((found) => {
            setText(found);
            void ask(found, false);
          })
        }
      />
      <Trouble error={trouble} />
      {look && (
        <div className="grid gap-3" data-look>
          <p className="font-semibold">{summary(look.rows)}.</p>
          <ul
            className="m-0 max-h-[260px] list-none divide-y divide-line overflow-auto p-0"
            tabIndex={0}
            aria-label="What each row does"
          >
            {look.rows.map((row) => (
              <li key={row.tag} className="flex gap-4 py-1" data-row={row.tag}>
                <span className="tag w-[80px] font-bold">{row.tag}</span>
                <span>{does(row)}</span>
              </li>
            ))}
          </ul>
          {changing && (
            <button className="btn now site" onClick={() => void ask(text, true)}>
              Import
            </button>
          )}
        </div>
      )}
    </div>
  );
}

const counted = (number: number, word: string): string => `${number} ${word}`;
const summary = (rows: Row[]): string =>
  [
    counted(rows.filter((row) => row.does === "add").length, "new"),
    counted(rows.filter((row) => row.does === "change").length, "changed"),
    counted(rows.filter((row) => row.does === "same").length, "unchanged"),
  ].join(", ");

function does(row: Row): string {
  if (row.does === "add") return row.new_model ? `new, with a new model: ${row.new_model}` : "new";
  if (row.does === "same") return "unchanged";
  return Object.entries(row.changes)
    .map(([name, [from, to]]) => `${name}: ${from || "nothing"} to ${to}`)
    .join(", ");
}
