// A check from a document file or a table: read by the core's parser, opened as a field sheet, saved only by a person.
import { useNavigate } from "react-router";
import { usePerson } from "../../app/session";
import { readDocument, readTable } from "../../core";
import { type CheckDocument, begin } from "../../sheet/draft";
import { fromFile } from "../../sheet/fromFile";
import { keepDraft } from "../../store/device";
import { FromFile, isTable } from "../../ui/FromFile";

export function LoadFile({ kinds, columns }: { kinds: string[]; columns: string[] }) {
  const { username } = usePerson();
  const navigate = useNavigate();
  const open = async (file: File, tag: string) => {
    const csv = isTable(file);
    const document: CheckDocument = csv ? await readTable("two-peg", await file.text()) : await readDocument("two-peg", await file.arrayBuffer());
    const draft = begin({ kind: document.kind, instrument: tag, owner: username, entry: csv ? "csv" : "file", document: fromFile(document) });
    await keepDraft(draft);
    await navigate(`/bench/${draft.id}`);
  };
  return (
    <FromFile kinds={kinds} accept=".json,.csv,.tsv,.txt" onFile={open}>
      A document file (JSON) of Naveta, or a table with a heading row: {columns.join(", ")}. Semicolon, comma or tab; decimal point or comma. One row a reading; the distance once a sight.
    </FromFile>
  );
}
