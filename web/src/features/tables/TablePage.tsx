// A table of somebody's own on its way into a sheet: a person says which column is what, sees what is read, and opens it.
import { useQuery } from "@tanstack/react-query";
import { useLocation, useNavigate } from "react-router";
import { NoSignal, send } from "../../api/client";
import { pointsQuery } from "../../api/queries";
import { useHere, usePerson } from "../../app/session";
import { storeDraft } from "../../device/device";
import { begin } from "../../documents/draft";
import { type HeldTable, heldTable, holdTable, rememberOnDevice } from "../../documents/heldTable";
import {
  ORIENTATION_KINDS,
  type OrientationDocument,
  type OrientationKind,
  asDraft,
  beginOrientation,
  withControl,
} from "../../documents/orientation";
import { type ColumnLook, openTable } from "../../engine";
import { Head, Trouble, Waiting } from "../../ui/parts";
import { moment } from "../../ui/words";
import { Columns } from "./Columns";
import { Cut } from "./Cut";
import { OnEveryLine } from "./OnEveryLine";
import { WhatIsRead } from "./WhatIsRead";
import { useLook } from "./useLook";
import { useTrouble } from "../../ui/refusal";

export function TablePage() {
  const { username } = usePerson();
  const held = heldTable(username);
  const navigate = useNavigate();
  const from = useLocation().pathname.replace(/\/table$/, "");
  if (held) return <Mapping key={held.number} held={held} />;
  return (
    <Head
      title="No table is open"
      sub="A file of somebody's own is not kept on this device. Choose it again."
      actions={
        <button className="btn" onClick={() => void navigate(from)}>
          Choose a file
        </button>
      }
    />
  );
}

function Mapping({ held }: { held: HeldTable & { number: number } }) {
  const { session } = useHere();
  const navigate = useNavigate();
  const table = useLook(held);
  const { open, trouble } = useOpen(held);
  const { look, known } = table;
  if (!look) return table.error ? <Trouble error={table.error} /> : <Waiting what="Reading the table…" />;
  const whose = known ? `${known.name}, ${moment(known.at, session.time_zone)}` : "";
  return (
    <div className="grid gap-4" data-fresh={!table.busy}>
      <Head
        title="Which column is what"
        sub={`${held.name}, read as ${held.title}${held.tag ? ` of ${held.tag}` : ""}. Nothing is stored before you save.`}
        actions={
          <button className="btn" onClick={() => void navigate(-1)}>
            Another file
          </button>
        }
      />
      {known && (
        <p className="flex flex-wrap items-center gap-3" data-known>
          Read as last time: {whose}.
          <button className="link" onClick={table.forget}>
            Suggest again
          </button>
        </p>
      )}
      <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_minmax(0,460px)]">
        <section className="card grid gap-4 p-4 tab:p-5" aria-label="Columns of the file">
          <Cut look={look} onCut={table.recut} onMap={table.set} />
          <Columns look={look} onMap={table.set} />
          <OnEveryLine look={look} onMap={table.set} />
        </section>
        <div className="grid gap-3 desk:sticky desk:top-4">
          <WhatIsRead
            look={look}
            busy={table.busy}
            onMap={table.set}
            label={held.kind === "control-points" ? "Look at the points" : "Open as a sheet"}
            onOpen={() => void open(look)}
          />
          <Trouble error={table.error ?? trouble} />
        </div>
      </div>
    </div>
  );
}

/** Opens what was read as a draft, or hands it to the page of control points; the firm remembers how such a table is read. */
function useOpen(held: HeldTable) {
  const { username, name } = usePerson();
  const navigate = useNavigate();
  const points = useQuery({ ...pointsQuery, enabled: ORIENTATION_KINDS.includes(held.kind) });
  const [trouble, setTrouble] = useTrouble();
  const open = async (look: ColumnLook) => {
    if (look.text === null) return;
    try {
      const address = await draftOf(held, look.text, username, points.data?.points ?? []);
      void remember(held.kind, look, name);
      await navigate(address);
    } catch (error) {
      setTrouble(error);
    }
  };
  return { open, trouble };
}

async function draftOf(
  held: HeldTable,
  text: string,
  username: string,
  points: Parameters<typeof withControl>[1],
): Promise<string> {
  if (held.kind === "control-points") {
    holdTable({ ...held, text });
    return "/points?table=held";
  }
  if (ORIENTATION_KINDS.includes(held.kind)) {
    const { document, entry } = await openTable<OrientationDocument>(held.kind, text);
    const draft = {
      ...beginOrientation(held.tag, username, held.kind as OrientationKind, document.units, {}),
      entry,
      document: withControl(document, points, held.station),
    };
    await storeDraft(asDraft(draft));
    return `/orientation/${draft.id}`;
  }
  const { document, entry } = await openTable(held.kind, text);
  const draft = begin({ kind: held.kind, instrument: held.tag, owner: username, entry, document });
  await storeDraft(draft);
  return `/bench/${draft.id}`;
}

/** On this device at once; for everybody when there is a connection. What is not remembered is only said again. */
async function remember(kind: string, look: ColumnLook, name: string): Promise<void> {
  const headings = look.file_columns.map((column) => column.heading.slice(0, 80));
  const column_map = { ...look.column_map, left_out: [] };
  rememberOnDevice({ kind, headings, column_map, name, at: new Date().toISOString() });
  try {
    await send("PUT", "/api/tables/known", { kind, headings, column_map });
  } catch (error) {
    if (!(error instanceof NoSignal)) console.warn("The table is known on this device only.", error);
  }
}
