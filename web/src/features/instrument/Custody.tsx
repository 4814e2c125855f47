// Taking out, handing in, noting a knock, holding back and releasing: each in one touch or two, each taken back as easily.
import { useState } from "react";
import type { Instrument } from "../../api/client";
import { useHappening } from "../../app/events";
import { useHere, usePerson } from "../../app/session";
import { NoteEvent } from "../../ui/NoteEvent";
import { PermissionButton, WithReason } from "../../ui/permission";

type Asking = "note" | "held" | "released" | null;

export function Custody({ item }: { item: Instrument }) {
  const { may } = useHere();
  const person = usePerson();
  const happened = useHappening();
  const [asking, setAsking] = useState<Asking>(null);
  const state = item.standing.state;
  const out = may("take-out");
  const inn = may("hand-in");
  return (
    <>
      {item.crew ? (
        <PermissionButton right={inn} onPress={() => void happened({ instrument: item.tag, event: "in" }, `${item.tag} handed in`)}>
          Hand in
        </PermissionButton>
      ) : (
        state !== "hold" &&
        person.crew && (
          <PermissionButton right={out} onPress={() => void happened({ instrument: item.tag, event: "out", crew: person.crew as string }, `${item.tag} taken out`)}>
            Take out
          </PermissionButton>
        )
      )}
      {state === "hold" ? (
        <PermissionButton right={may("release")} onPress={() => setAsking("released")}>
          Release
        </PermissionButton>
      ) : (
        <PermissionButton right={may("hold")} onPress={() => setAsking("held")}>
          Hold
        </PermissionButton>
      )}
      <button className="btn" onClick={() => setAsking("note")}>
        Report a knock or drop
      </button>
      <NoteEvent tag={item.tag} open={asking === "note"} onClose={() => setAsking(null)} />
      <WithReason
        event="held"
        tag={item.tag}
        open={asking === "held"}
        title={`Put ${item.tag} on hold?`}
        text="It stays on hold until a check passes or the manager releases it. The reason is shown everywhere."
        word="Put on hold"
        onClose={() => setAsking(null)}
      />
      <WithReason
        event="released"
        tag={item.tag}
        open={asking === "released"}
        title={`Release ${item.tag} without a passed check?`}
        text="It can then be used under its condition. Your name and reason are shown until a check passes."
        word="Release"
        onClose={() => setAsking(null)}
      />
    </>
  );
}
