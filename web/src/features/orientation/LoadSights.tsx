// Sights from a document file or a table: read by the core, opened like any others, kept only by a person.
import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { pointsQuery } from "../../api/queries";
import { usePerson } from "../../app/session";
import { toBeMapped } from "../../documents/heldTable";
import { openFile } from "../../engine";
import {
  type Known,
  type OrientationDocument,
  type OrientationKind,
  asDraft,
  beginOrientation,
  withControl,
} from "../../documents/orientation";
import { storeDraft } from "../../device/device";
import { FromFile } from "../../ui/FromFile";
import { SIGHTED } from "../../documents/instrumentKinds";

const TITLES: Record<OrientationKind, string> = { "free-station": "free station", backsight: "backsight" };

export function LoadSights({ kind, station }: { kind: OrientationKind; station: Known | null }) {
  const { username } = usePerson();
  const navigate = useNavigate();
  const points = useQuery(pointsQuery);
  const open = async (file: File, tag: string) => {
    if (await toBeMapped({ owner: username, kind, title: TITLES[kind], tag, station }, file))
      return navigate("/orientation/table");
    const read = await openFile<OrientationDocument>(kind, file);
    const document = withControl(read.document, points.data?.points ?? [], station);
    const draft = { ...beginOrientation(tag, username, kind, document.units, {}), entry: read.entry, document };
    await storeDraft(asDraft(draft));
    await navigate(`/orientation/${draft.id}`);
  };
  return (
    <FromFile kinds={SIGHTED} accept=".json,.csv,.tsv,.txt" onFile={open}>
      A document file (JSON), or a table of whatever program (CSV, TSV, text): you say which column is what, and Naveta
      remembers it. Points of a table are looked up among the control points.
    </FromFile>
  );
}
