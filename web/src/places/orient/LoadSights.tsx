// Sights from a document file or a table: read by the core, opened like any others, kept only by a person.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { pointsQuery } from "../../api/queries";
import { usePerson } from "../../app/session";
import { readDocument, readTable } from "../../core";
import { type Known, type OrientDocument, type OrientKind, asDraft, beginOrientation, fromOrientFile } from "../../sheet/orient";
import { keepDraft } from "../../store/device";
import { PickInstrument } from "../../ui/PickInstrument";
import { Trouble } from "../../ui/parts";
import { STAND_KINDS } from "../stand/kinds";

const MOST_BYTES = 3 * 1024 * 1024;

export function LoadSights({ kind, station }: { kind: OrientKind; station: Known | null }) {
  const { username } = usePerson();
  const navigate = useNavigate();
  const points = useQuery(pointsQuery);
  const [tag, setTag] = useState("");
  const [asked, setAsked] = useState(false);
  const [trouble, setTrouble] = useState<unknown>(null);
  const load = async (file: File) => {
    if (!tag) return setAsked(true);
    setTrouble(null);
    if (file.size > MOST_BYTES) return setTrouble(new Error("too large"));
    const table = /\.(csv|tsv|txt)$/i.test(file.name);
    try {
      const read = (table ? await readTable(kind, await file.text()) : await readDocument(kind, await file.arrayBuffer())) as unknown as OrientDocument;
      const document = fromOrientFile(read, points.data?.points ?? [], station);
      const draft = { ...beginOrientation(tag, username, kind, document.units, {}), entry: table ? ("csv" as const) : ("file" as const), document };
      await keepDraft(asDraft(draft));
      await navigate(`/stand/orient/${draft.id}`);
    } catch (error) {
      setTrouble(error);
    }
  };
  return (
    <div className="grid gap-5">
      <PickInstrument value={tag} onChange={setTag} missing={asked && !tag} kinds={STAND_KINDS} />
      <label className="grid gap-2 font-[600]">
        The file
        <input
          type="file"
          accept=".json,.csv,.tsv,.txt"
          className="field file:mr-4 file:min-h-[44px] file:border-0 file:bg-transparent file:font-[640] file:underline"
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) void load(file);
            event.target.value = "";
          }}
        />
      </label>
      <p className="sub">A document file (JSON), or a table with a heading row: point, hz, v, slope_distance, target_height, face, length, angle. Points of a table are looked up among the known points.</p>
      <Trouble error={trouble} />
    </div>
  );
}
