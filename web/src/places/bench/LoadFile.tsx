// A check from a document file or a table: read by the core's parser, opened as a field sheet, saved only by a person.
import { useState } from "react";
import { useNavigate } from "react-router";
import { usePerson } from "../../app/session";
import { readDocument, readTable } from "../../core";
import { keepDraft } from "../../store/device";
import { type CheckDocument, begin } from "../../sheet/draft";
import { Trouble } from "../../ui/parts";
import { fromFile } from "../../sheet/fromFile";
import { PickInstrument } from "../../ui/PickInstrument";

const MOST_BYTES = 3 * 1024 * 1024;

export function LoadFile({ kinds, columns }: { kinds: string[]; columns: string[] }) {
  const { username } = usePerson();
  const navigate = useNavigate();
  const [tag, setTag] = useState("");
  const [asked, setAsked] = useState(false);
  const [trouble, setTrouble] = useState<unknown>(null);
  const [said, setSaid] = useState("");
  const load = async (file: File) => {
    if (!tag) return setAsked(true);
    setTrouble(null);
    setSaid("");
    if (file.size > MOST_BYTES) return setSaid(`${file.name} is too large for a check: nothing was read.`);
    const csv = /\.(csv|tsv|txt)$/i.test(file.name);
    try {
      const document: CheckDocument = csv ? await readTable("two-peg", await file.text()) : await readDocument("two-peg", await file.arrayBuffer());
      const draft = begin({ kind: document.kind, instrument: tag, owner: username, entry: csv ? "csv" : "file", document: fromFile(document) });
      await keepDraft(draft);
      await navigate(`/bench/${draft.id}`);
    } catch (error) {
      setTrouble(error);
    }
  };
  return (
    <div className="grid gap-5">
      <PickInstrument value={tag} onChange={setTag} missing={asked && !tag} kinds={kinds} />
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
      <p className="sub">
        A document file (JSON) of Naveta, or a table with a heading row: {columns.join(", ")}. Semicolon, comma or tab; decimal point or comma. One row a reading; the distance once a sight.
      </p>
      {said && <p className="fault">{said}</p>}
      <Trouble error={trouble} />
    </div>
  );
}
