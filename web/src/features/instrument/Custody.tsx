// Taking out, handing in, reporting what happened, holding back, releasing, lending and service: each in one touch or two,
// each taken back as easily.
import { useState } from "react";
import type { Instrument } from "../../api/client";
import { useHappening } from "../../app/events";
import { useHere, usePerson } from "../../app/session";
import { CaseLook } from "../../ui/CaseLook";
import { NoteEvent } from "../../ui/NoteEvent";
import { PermissionButton, type Reasoned, WithReason } from "../../ui/permission";
import { closed } from "../../ui/words";
import { ServiceBack } from "./ServiceBack";

export function Custody({ item }: { item: Instrument }) {
  const { may } = useHere();
  const [asking, setAsking] = useState<Reasoned | null>(null);
  const [noting, setNoting] = useState(false);
  const { tag } = item;
  const state = item.standing.state;
  return (
    <>
      <Whereabouts item={item} onAsk={setAsking} />
      {state === "hold" ? (
        <PermissionButton right={may("release")} onPress={() => setAsking(released(tag))}>
          Release
        </PermissionButton>
      ) : (
        state !== "away" && (
          <PermissionButton right={may("hold")} onPress={() => setAsking(held(tag))}>
            Hold
          </PermissionButton>
        )
      )}
      <button className="btn" onClick={() => setNoting(true)}>
        Report what happened
      </button>
      <NoteEvent tag={tag} open={noting} onClose={() => setNoting(false)} />
      {asking && <WithReason {...asking} tag={tag} open onClose={() => setAsking(null)} />}
    </>
  );
}

/** Where it goes or comes back from. */
function Whereabouts({ item, onAsk }: { item: Instrument; onAsk: (asking: Reasoned) => void }) {
  const { may } = useHere();
  const { crew } = usePerson();
  const happened = useHappening();
  const [packing, setPacking] = useState<"out" | "in" | "back" | null>(null);
  const { tag, standing } = item;
  const away = may("send-away");
  const pack =
    packing === "out" || packing === "in" ? (
      <Pack item={item} crew={crew} event={packing} onClose={() => setPacking(null)} />
    ) : null;
  if (standing.state === "away" || item.place === "At service" || item.place === "Lent") {
    const lent = standing.reasons[0]?.code === "lent" || item.place === "Lent";
    return (
      <>
        <PermissionButton
          right={away}
          onPress={() =>
            lent ? void happened({ instrument: tag, event: "returned" }, `${tag} back from a loan`) : setPacking("back")
          }
        >
          {lent ? "Back from the loan" : "Back from service"}
        </PermissionButton>
        <ServiceBack item={item} open={packing === "back"} onClose={() => setPacking(null)} />
      </>
    );
  }
  if (item.crew)
    return (
      <>
        <PermissionButton right={may("hand-in")} onPress={() => setPacking("in")}>
          Hand in
        </PermissionButton>
        {pack}
      </>
    );
  return (
    <>
      {standing.state !== "hold" && crew && (
        <PermissionButton right={may("take-out")} onPress={() => setPacking("out")}>
          Take out
        </PermissionButton>
      )}
      {pack}
      {away.allowed && (
        <>
          <button className="btn" onClick={() => onAsk(service(tag))}>
            Send to service
          </button>
          {standing.state !== "hold" && (
            <button className="btn" onClick={() => onAsk(lend(tag))}>
              Lend
            </button>
          )}
        </>
      )}
    </>
  );
}

/** Taking out and handing in: the case looked through, and a reason where a check is still to come. */
function Pack({
  item,
  crew,
  event,
  onClose,
}: {
  item: Instrument;
  crew: string | null;
  event: "out" | "in";
  onClose: () => void;
}) {
  const happened = useHappening();
  const leaving = event === "out";
  const first = leaving && item.standing.state === "check-first";
  return (
    <CaseLook
      open
      onClose={onClose}
      item={item}
      leaving={leaving}
      title={leaving ? `Take out ${item.tag}` : `Hand in ${item.tag}`}
      word={leaving ? "Take out" : "Hand in"}
      reason={first ? { because: closed(item.standing.reasons[0]?.text ?? "It waits for a check.") } : undefined}
      onDone={(seen, note) => {
        onClose();
        void happened(
          { instrument: item.tag, event, ...(leaving && crew ? { crew } : {}), ...(note ? { note } : {}), ...seen },
          leaving ? `${item.tag} taken out` : `${item.tag} handed in`,
        );
      }}
    />
  );
}

const held = (tag: string): Reasoned => ({
  event: "held",
  title: `Put ${tag} on hold?`,
  word: "Put on hold",
  done: `Hold on ${tag}`,
});
const released = (tag: string): Reasoned => ({
  event: "released",
  title: `Release ${tag} without a passed check?`,
  word: "Release",
  done: `Release of ${tag}`,
});
const service = (tag: string): Reasoned => ({
  event: "service-out",
  title: `Send ${tag} to service?`,
  word: "Send to service",
  label: "Where, and what for",
  done: `${tag} sent to service`,
});
const lend = (tag: string): Reasoned => ({
  event: "lent",
  title: `Lend ${tag}?`,
  word: "Lend",
  label: "To whom, and until when",
  done: `${tag} lent`,
});
