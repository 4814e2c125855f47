// A set-up from a document file: read by the core's parser, opened like any other, kept only by a person.
import { useNavigate } from "react-router";
import { usePerson } from "../../app/session";
import { readDocument } from "../../core";
import { type SetUpDocument, asDraft, beginSetUp, fromSetUpFile } from "../../sheet/setUp";
import { keepDraft } from "../../store/device";
import { FromFile } from "../../ui/FromFile";
import { STAND_KINDS } from "./kinds";

export function LoadSetUp() {
  const { username } = usePerson();
  const navigate = useNavigate();
  const open = async (file: File, tag: string) => {
    const document = fromSetUpFile((await readDocument("set-up", await file.arrayBuffer())) as unknown as SetUpDocument);
    const draft = { ...beginSetUp(tag, username, document.observations), entry: "file" as const, document };
    await keepDraft(asDraft(draft));
    await navigate(`/stand/${draft.id}`);
  };
  return (
    <FromFile kinds={STAND_KINDS} accept=".json" onFile={open}>
      A document file (JSON) of a set-up, as every record here gives it.
    </FromFile>
  );
}
