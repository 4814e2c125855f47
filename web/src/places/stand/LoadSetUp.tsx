// A set-up from a document file: read by the core's parser, opened like any other, kept only by a person.
import { useState } from "react";
import { useNavigate } from "react-router";
import { usePerson } from "../../app/session";
import { readDocument } from "../../core";
import { type SetUpDocument, asDraft, asSetUp, fromSetUpFile } from "../../sheet/setUp";
import { begin } from "../../sheet/draft";
import { keepDraft } from "../../store/device";
import { PickInstrument } from "../../ui/PickInstrument";
import { Trouble } from "../../ui/parts";
import { STAND_KINDS } from "./kinds";

const MOST_BYTES = 3 * 1024 * 1024;

export function LoadSetUp() {
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
    if (file.size > MOST_BYTES) return setSaid(`${file.name} is too large for a set-up: nothing was read.`);
    try {
      const document = (await readDocument("set-up", await file.arrayBuffer())) as unknown as SetUpDocument;
      const blank = asSetUp(begin({ kind: "set-up", instrument: tag, owner: username, entry: "file" }));
      if (!blank) return;
      await keepDraft(asDraft({ ...blank, document: fromSetUpFile(document) }));
      await navigate(`/stand/${blank.id}`);
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
          accept=".json"
          className="field file:mr-4 file:min-h-[44px] file:border-0 file:bg-transparent file:font-[640] file:underline"
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) void load(file);
            event.target.value = "";
          }}
        />
      </label>
      <p className="sub">A document file (JSON) of a set-up, as every record here gives it. Nothing is kept before you say so.</p>
      {said && <p className="fault">{said}</p>}
      <Trouble error={trouble} />
    </div>
  );
}
