// A check from a document file or a table: read by the core's parser, opened as a field sheet, saved only by a person.
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Kind } from "../../api/client";
import { usePerson } from "../../app/session";
import { toBeMapped } from "../../documents/heldTable";
import { openFile } from "../../engine";
import { begin } from "../../documents/draft";
import { storeDraft } from "../../device/device";
import { FromFile } from "../../ui/FromFile";

export function LoadFile({ kinds }: { kinds: Kind[] }) {
  const { username } = usePerson();
  const navigate = useNavigate();
  const [name, setName] = useState("two-peg");
  const kind = kinds.find((each) => each.kind === name);
  const open = async (file: File, tag: string) => {
    if (await toBeMapped({ owner: username, kind: name, title: kind?.title ?? name, tag, station: null }, file))
      return navigate("/bench/table");
    const { document, entry } = await openFile(name, file);
    const draft = begin({ kind: document.kind, instrument: tag, owner: username, entry, document });
    await storeDraft(draft);
    await navigate(`/bench/${draft.id}`);
  };
  return (
    <div className="grid gap-4">
      <label className="grid gap-1 font-semibold">
        Which check is in it
        <select className="field" value={name} onChange={(event) => setName(event.target.value)}>
          {kinds.map((each) => (
            <option key={each.kind} value={each.kind}>
              {each.title}
            </option>
          ))}
        </select>
      </label>
      <FromFile kinds={kind?.applies_to ?? []} accept=".json,.csv,.tsv,.txt" onFile={open}>
        A document file (JSON), or a table of whatever program (CSV, TSV, text): you say which column is what, and
        Naveta remembers it. A table with the headings {kind?.csv_columns.join(", ")} opens at once.
      </FromFile>
    </div>
  );
}
