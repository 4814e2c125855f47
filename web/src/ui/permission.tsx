// Actions that need a right, and actions that need a reason.
import { type ReactNode, useState } from "react";
import { useHappening } from "../app/events";
import { Dialog } from "./parts";

/** An action that is not allowed is greyed with its sentence, never hidden. */
export function PermissionButton({ right, onPress, children }: { right: { allowed: boolean; text: string }; onPress: () => void; children: ReactNode }) {
  return (
    <button className="btn" aria-disabled={!right.allowed} title={right.allowed ? undefined : right.text} onClick={() => right.allowed && onPress()}>
      <span>
        {children}
        {!right.allowed && <span className="block text-[14px] font-[440]">{right.text}</span>}
      </span>
    </button>
  );
}

type Props = { event: "held" | "released"; tag: string; open: boolean; title: string; text: string; word: string; onClose: () => void };

export function WithReason({ event, tag, open, title, text, word, onClose }: Props) {
  const happened = useHappening();
  const [note, setNote] = useState("");
  const [query, setSubmitted] = useState(false);
  const submit = async (e: React.FormEvent) => {
    e.preventDefault();
    if (!note.trim()) return setSubmitted(true);
    onClose();
    await happened({ instrument: tag, event, note: note.trim() }, event === "held" ? `Hold on ${tag}` : `Release of ${tag}`);
    setNote("");
  };
  return (
    <Dialog title={title} open={open} onClose={onClose}>
      <form className="grid gap-4" onSubmit={(e) => void submit(e)}>
        <p>{text}</p>
        <label className="grid gap-1 font-[600]">
          Why
          <textarea className="field" rows={2} maxLength={500} value={note} onChange={(e) => setNote(e.target.value)} />
        </label>
        {query && !note.trim() && <p className="fault">Enter a few words: they are shown with it.</p>}
        <button className="btn now site">{word}</button>
      </form>
    </Dialog>
  );
}
