// Taking out, handing in, noting a knock, holding back and releasing: each in one touch or two, each taken back as easily.
import { useState } from "react";
import type { Instrument } from "../../api/client";
import { useHappening } from "../../app/acts";
import { useHere, usePerson } from "../../app/session";
import { NoteEvent } from "../../ui/NoteEvent";
import { Gated, WithReason } from "../../ui/gated";

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
