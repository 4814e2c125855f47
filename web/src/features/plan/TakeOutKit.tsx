// Taking out everything of a kit that the crew does not hold yet: one touch, a reason where a check is still to come.
import { useState } from "react";
import { useEventKind } from "../../app/eventKinds";
import { useEach } from "../../app/useEach";
import { useHere } from "../../app/session";
import { Dialog } from "../../ui/parts";
import { PermissionButton, ReasonForm } from "../../ui/permission";
import type { JobKit, Kit } from "./types";

export function TakeOutKit({ job, kit }: { job: JobKit; kit: Kit }) {
  const { may, person } = useHere();
  const follows = useEventKind()("out")?.follows;
  const [asking, setAsking] = useState(false);
  const { busy, each } = useEach(() => undefined);
  const crew = job.crew ?? person?.crew;
  const toTake = kit.tags.filter((tag) => !job.answer.fitness.find((one) => one.tag === tag)?.own);
  const waiting = [
    ...new Set(
      kit.checks
        .filter((check) => check.where === "before-leaving" && toTake.includes(check.tag))
        .map((check) => check.tag),
    ),
  ];
  if (!crew || !toTake.length) return null;
  const take = (note?: string) => void each(toTake, { event: "out", crew, ...(note ? { note } : {}) });
  return (
    <>
      <PermissionButton right={may("take-out")} onPress={() => (waiting.length ? setAsking(true) : take())}>
        {busy === null
          ? `Take out ${toTake.length === kit.tags.length ? "the kit" : toTake.join(", ")}`
          : `${busy} of ${toTake.length}…`}
      </PermissionButton>
      <Dialog title={`Take out ${toTake.join(", ")}?`} open={asking} onClose={() => setAsking(false)}>
        <ReasonForm
          text={[`${waiting.join(", ")} ${waiting.length === 1 ? "waits" : "wait"} for a check.`, follows]
            .filter(Boolean)
            .join(" ")}
          word="Take out"
          onReason={(note) => {
            setAsking(false);
            take(note);
          }}
        />
      </Dialog>
    </>
  );
}
