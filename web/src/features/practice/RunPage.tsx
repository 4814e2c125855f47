// A lesson somebody finished, with its replay.
import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { practiceRunQuery } from "../../api/queries";
import { usePerson } from "../../app/session";
import { Trouble, Waiting } from "../../ui/parts";
import { Outcome } from "./Outcome";
import { PracticeTabs } from "./PracticeTabs";
import { lessonsQuery } from "./StandPage";

export function RunPage() {
  const { id = "" } = useParams();
  const { username } = usePerson();
  const run = useQuery(practiceRunQuery(id));
  const lesson = useQuery(lessonsQuery).data?.find((each) => each.name === run.data?.lesson);
  return (
    <div className="grid gap-4">
      <PracticeTabs />
      {(run.isPending || (run.data && !lesson)) && <Waiting what="Loading the run…" />}
      <Trouble error={run.error} />
      {run.data && lesson && <Outcome judged={run.data.judged} gestures={run.data.gestures} lesson={lesson} seed={run.data.seed} {...(run.data.username === username ? {} : { who: run.data.name })} />}
    </div>
  );
}
