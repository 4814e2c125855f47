// Sights from a document file or a table: read by the core, opened like any others, kept only by a person.
import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { pointsQuery } from "../../api/queries";
import { usePerson } from "../../app/session";
import { readDocument, readTable } from "../../core";
import { type Known, type OrientDocument, type OrientKind, asDraft, beginOrientation, fromOrientFile } from "../../sheet/orient";
import { keepDraft } from "../../store/device";
import { FromFile, isTable } from "../../ui/FromFile";
import { SIGHTED } from "../stand/kinds";

export function LoadSights({ kind, station }: { kind: OrientKind; station: Known | null }) {
  const { username } = usePerson();
  const navigate = useNavigate();
  const points = useQuery(pointsQuery);
  const open = async (file: File, tag: string) => {
    const csv = isTable(file);
    const read = (csv ? await readTable(kind, await file.text()) : await readDocument(kind, await file.arrayBuffer())) as unknown as OrientDocument;
    const document = fromOrientFile(read, points.data?.points ?? [], station);
    const draft = { ...beginOrientation(tag, username, kind, document.units, {}), entry: csv ? ("csv" as const) : ("file" as const), document };
    await keepDraft(asDraft(draft));
    await navigate(`/stand/orient/${draft.id}`);
  };
  return (
    <FromFile kinds={SIGHTED} accept=".json,.csv,.tsv,.txt" onFile={open}>
      A document file (JSON), or a table with a heading row: point, hz, v, slope_distance, target_height, face, length, angle. Points of a table are looked up among the known points.
    </FromFile>
  );
}
