// Taking out, handing in, noting a knock, holding back and releasing: each in one touch or two, each taken back as easily.
import { useState } from "react";
import type { Instrument } from "../../api/client";
import { useHappening } from "../../app/acts";
import { useHere, usePerson } from "../../app/session";
import { Dialog } from "../../ui/parts";
import { NoteEvent } from "../yard/NoteEvent";

type Asking = "note" | "held" | "released" | null;

export function Custody({ one }: { one: Instrument }) {
  const { may } = useHere();
  const person = usePerson();
  const happened = useHappening();
  const [asking, setAsking] = useState<Asking>(null);
  const state = one.standing.state;
  const out = may("take-out");
  const inn = may("hand-in");
  return (
    <>
      {one.crew ? (
        <Gated right={inn} onAct={() => void happened({ instrument: one.tag, event: "in" }, `${one.tag} handed in`)}>
          Hand in
        </Gated>
      ) : (
        state !== "hold" &&
        person.crew && (
          <Gated right={out} onAct={() => void happened({ instrument: one.tag, event: "out", crew: person.crew as string }, `${one.tag} taken out`)}>
            Take out
          </Gated>
        )
      )}
      {state === "hold" ? (
        <Gated right={may("release")} onAct={() => setAsking("released")}>
          Release
        </Gated>
      ) : (
        <Gated right={may("hold")} onAct={() => setAsking("held")}>
          Hold
        </Gated>
      )}
      <button className="btn" onClick={() => setAsking("note")}>
        Note a knock
      </button>
      <NoteEvent tag={one.tag} open={asking === "note"} onClose={() => setAsking(null)} />
      <WithReason
        event="held"
        tag={one.tag}
        open={asking === "held"}
        title={`Hold ${one.tag} back?`}
        text="It does not go out until a check has passed, or the manager releases it. The reason shows wherever it is."
        word="Hold it"
        onClose={() => setAsking(null)}
      />
      <WithReason
        event="released"
        tag={one.tag}
        open={asking === "released"}
        title={`Release ${one.tag} without a passed check?`}
        text="It may then go out, under its condition. Your name and reason show on it until a check has passed."
        word="Release it"
        onClose={() => setAsking(null)}
      />
    </>
  );
}

/** An act that is not allowed is greyed with its sentence, never hidden. */
export function Gated({ right, onAct, children }: { right: { allowed: boolean; text: string }; onAct: () => void; children: React.ReactNode }) {
  return (
    <button className="btn" aria-disabled={!right.allowed} title={right.allowed ? undefined : right.text} onClick={() => right.allowed && onAct()}>
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
  const [asked, setAsked] = useState(false);
  const submit = async (e: React.FormEvent) => {
    e.preventDefault();
    if (!note.trim()) return setAsked(true);
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
        {asked && !note.trim() && <p className="fault">A few words on why are wanted: they show with it.</p>}
        <button className="btn now site">{word}</button>
      </form>
    </Dialog>
  );
}
