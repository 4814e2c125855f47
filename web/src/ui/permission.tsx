// Actions that need a right, and actions that need a reason.
import { type ReactNode, useState } from "react";
import { useEventKind } from "../app/eventKinds";
import { useHappening } from "../app/events";
import { Dialog, Lacking } from "./parts";

/** An action that is not allowed is greyed with its sentence, never hidden. */
export function PermissionButton({
  right,
  onPress,
  children,
}: {
  right: { allowed: boolean; text: string };
  onPress: () => void;
  children: ReactNode;
}) {
  return (
    <button
      className="btn"
      aria-disabled={!right.allowed}
      title={right.allowed ? undefined : right.text}
      onClick={() => right.allowed && onPress()}
    >
      <span>
        {children}
        {!right.allowed && <span className="block text-[14px] font-normal">{right.text}</span>}
      </span>
    </button>
  );
}

export type Reasoned = {
  event: string;
  title: string;
  /** What is stated before what follows from it. */
  because?: string;
  word: string;
  /** How it is reported afterwards. */
  done: string;
  /** What the reason is called. */
  label?: string;
  crew?: string;
};
type Props = Reasoned & { tag: string; open: boolean; onClose: () => void };

export function WithReason({ event, tag, open, title, because, word, done, label, crew, onClose }: Props) {
  const happened = useHappening();
  const follows = useEventKind()(event)?.follows ?? "";
  const submit = (note: string) => {
    onClose();
    void happened({ instrument: tag, event, note, ...(crew ? { crew } : {}) }, done);
  };
  return (
    <Dialog title={title} open={open} onClose={onClose}>
      <ReasonForm text={[because, follows].filter(Boolean).join(" ")} word={word} label={label} onReason={submit} />
    </Dialog>
  );
}

/** A few words that are shown with it; nothing goes without them. */
export function ReasonForm({
  text,
  word,
  label = "Why",
  onReason,
}: {
  text: string;
  word: string;
  label?: string | undefined;
  onReason: (note: string) => void;
}) {
  const [note, setNote] = useState("");
  const [submitted, setSubmitted] = useState(false);
  const submit = (event: React.FormEvent) => {
    event.preventDefault();
    if (note.trim()) onReason(note.trim());
    else setSubmitted(true);
  };
  return (
    <form className="grid gap-4" onSubmit={submit}>
      <p>{text}</p>
      <label className="grid gap-1 font-semibold">
        {label}
        <textarea
          className="field"
          rows={2}
          maxLength={500}
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
      </label>
      {submitted && !note.trim() && <Lacking at="note">Enter a few words: they are shown with it.</Lacking>}
      <button className="btn now site">{word}</button>
    </form>
  );
}
