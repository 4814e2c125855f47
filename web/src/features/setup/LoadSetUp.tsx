// A set-up from a document file: read by the core's parser, opened like any other, kept only by a person.
import { useNavigate } from "react-router";
import { usePerson } from "../../app/session";
import { openFile } from "../../engine";
import { type SetUpDocument, asDraft, beginSetUp } from "../../documents/setUp";
import { storeDraft } from "../../device/device";
import { FromFile } from "../../ui/FromFile";
import { STAND_KINDS } from "../../documents/instrumentKinds";

export function LoadSetUp() {
  const { username } = usePerson();
  const navigate = useNavigate();
  const open = async (file: File, tag: string) => {
    const { document, entry } = await openFile<SetUpDocument>("set-up", file);
    const draft = { ...beginSetUp(tag, username, document.observations), entry, document };
    await storeDraft(asDraft(draft));
    await navigate(`/set-up/${draft.id}`);
  };
  return (
    <FromFile kinds={STAND_KINDS} accept=".json" onFile={open}>
      A document file (JSON) of a set-up, as every record here gives it.
    </FromFile>
  );
}
