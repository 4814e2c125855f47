// A lesson somebody finished, with its replay.
import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { practiceRunQuery } from "../../api/queries";
import { usePerson } from "../../app/session";
import { Trouble, Waiting } from "../../ui/parts";
import type { InstrumentJudged, InstrumentStep, MorningJudged } from "../../engine/practice";
import { InstrumentOutcome } from "./instruments/InstrumentOutcome";
import { MorningOutcome } from "./MorningOutcome";
import { Outcome } from "./Outcome";
import { PracticeTabs } from "./PracticeTabs";
import { useLessons } from "./useLessons";

/** Of an instrument the work is kept whole; of a run from before steps were kept there are none. */
const stepsOf = (done: unknown[]): InstrumentStep[] =>
  (done[0] as { steps?: InstrumentStep[] } | undefined)?.steps ?? [];

export function RunPage() {
  const { id = "" } = useParams();
  const { username } = usePerson();
  const run = useQuery(practiceRunQuery(id));
  const { lessons } = useLessons();
  const lesson = lessons?.stands.find((each) => each.name === run.data?.lesson);
  const instrument = (lessons ? [...lessons.instruments, ...lessons.faults] : []).find(
    (each) => each.name === run.data?.lesson,
  );
  const morning = lessons?.mornings.find((each) => each.name === run.data?.lesson);
  const who = run.data && run.data.username !== username ? { who: run.data.name } : {};
  return (
    <div className="grid gap-4">
      <PracticeTabs />
      {(run.isPending || (run.data && !lesson && !instrument && !morning)) && <Waiting what="Loading the run…" />}
      <Trouble error={run.error} />
      {run.data && lesson && (
        <Outcome judged={run.data.judged} gestures={run.data.gestures} lesson={lesson} seed={run.data.seed} {...who} />
      )}
      {run.data && instrument && (
        <InstrumentOutcome
          judged={run.data.judged as unknown as InstrumentJudged}
          lesson={instrument}
          steps={stepsOf(run.data.gestures)}
          seed={run.data.seed}
          {...who}
        />
      )}
      {run.data && morning && (
        <MorningOutcome
          judged={run.data.judged as unknown as MorningJudged}
          lesson={morning}
          seed={run.data.seed}
          {...who}
        />
      )}
    </div>
  );
}
