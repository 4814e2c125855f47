// Something is wrong with a record: strike it, or correct it. It remains either way, with the reason.
import { written } from "../../api/writing";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { fetchAgain } from "../../api/again";
import { type RecordOut, send } from "../../api/client";
import { useHere, usePerson } from "../../app/session";
import { storeDraft } from "../../device/device";
import { Dialog, Lacking, Trouble } from "../../ui/parts";
import { addressOf, reopened } from "../../documents/reopen";
import { useTrouble } from "../../ui/refusal";

export function Amend({ record, open, onClose }: { record: RecordOut; open: boolean; onClose: () => void }) {
  const { may } = useHere();
  const { username } = usePerson();
  const navigate = useNavigate();
  const client = useQueryClient();
  const [why, setWhy] = useState("");
  const [query, setSubmitted] = useState(false);
  const [trouble, setTrouble] = useTrouble();
  const right = may("amend");
  const short = why.trim().length < 3;
  const ready = () => {
    setSubmitted(true);
    return right.allowed && !short;
  };
  const strike = async () => {
    if (!ready()) return;
    try {
      await send("POST", `/api/records/${record.id}/amend`, { id: crypto.randomUUID(), why: why.trim() });
      await fetchAgain(client);
      onClose();
    } catch (error) {
      setTrouble(error);
    }
  };
  const correct = async () => {
    if (!ready()) return;
    try {
      const draft = await reopened(record, username, why.trim());
      await storeDraft(draft);
      await navigate(addressOf(draft));
    } catch (error) {
      setTrouble(error);
    }
  };
  return (
    <Dialog title="Something is wrong here" open={open} onClose={onClose}>
      <div className="grid gap-4">
        <p>The record stays, struck, with your reason. It no longer counts.</p>
        <label className="grid gap-1 font-semibold">
          What is wrong
          <textarea
            className="field"
            rows={2}
            maxLength={500}
            value={why}
            onChange={(e) => setWhy(e.target.value)}
            placeholder={written("Staff B stood on the wrong peg")}
          />
        </label>
        {query && short && <Lacking at="why">Enter a few words on what was wrong.</Lacking>}
        <Trouble error={trouble} />
        {!right.allowed && <p className="fault">{right.text}</p>}
        <button className="btn site" onClick={() => void correct()}>
          Correct a reading
        </button>
        <button className="btn site" onClick={() => void strike()}>
          Strike the record
        </button>
      </div>
    </Dialog>
  );
}
