// Something was noticed about an instrument: checks to choose from, and one thing to name. It may be nothing.
import { useState } from "react";
import { useParams } from "react-router";
import { useQuery } from "@tanstack/react-query";
import type { Preview } from "../../../api/client";
import { type CheckDocument, type Draft, toSend } from "../../../documents/draft";
import {
  type FaultLesson,
  type FaultSituation,
  type InstrumentJudged,
  faultSituation,
  judgeFault,
} from "../../../engine/practice";
import { Choice } from "../../../ui/Choice";
import { Head, Trouble, Waiting } from "../../../ui/parts";
import { Timer } from "../Timer";
import { faultsQuery } from "../useLessons";
import { useSaveRun } from "../useSaveRun";
import { useSeed } from "../useSeed";
import { InstrumentOutcome } from "./InstrumentOutcome";
import { PartReading } from "./PartReading";
import { useSeconds } from "./useSeconds";
import { useTrouble } from "../../../ui/refusal";

const MAX_BLURS = 400;
type Sheet = { draft: Draft; complete: boolean };

export function FaultPage() {
  const { lesson: name = "" } = useParams();
  const { seed, tries, again } = useSeed();
  const lessons = useQuery(faultsQuery);
  const situation = useQuery({
    queryKey: ["practice-fault", name, seed],
    queryFn: () => faultSituation({ lesson: name, seed }),
    staleTime: Infinity,
  });
  const lesson = lessons.data?.find((each) => each.name === name);
  if (lessons.data && !lesson) return <Head title="No such lesson" sub="Choose one in Practice." />;
  if (lessons.error ?? situation.error) return <Trouble error={lessons.error ?? situation.error} />;
  if (!lesson || !situation.data) return <Waiting what="Fetching the instrument…" />;
  return (
    <Search key={`${name} ${seed} ${tries}`} lesson={lesson} situation={situation.data} seed={seed} onAgain={again} />
  );
}

type SearchProps = { lesson: FaultLesson; situation: FaultSituation; seed: number; onAgain: (seed: number) => void };

/** The sheets that were begun, what was named, and how it went. */
function useSearch({ lesson, seed }: SearchProps) {
  const [sheets, setSheets] = useState<Record<string, Sheet>>({});
  const [named, setNamed] = useState("");
  const [blurs, setBlurs] = useState<number[]>([]);
  const [judged, setJudged] = useState<InstrumentJudged | null>(null);
  const [error, setError] = useTrouble();
  const seconds = useSeconds(judged === null);
  const save = useSaveRun();
  const keep = (part: string, draft: Draft, blur: number | null) => {
    setSheets((before) => ({ ...before, [part]: { draft, complete: before[part]?.complete ?? false } }));
    if (blur !== null) setBlurs([...blurs, blur].slice(-MAX_BLURS));
  };
  const take = (part: string, preview: Preview | null) =>
    setSheets((before) =>
      before[part] ? { ...before, [part]: { ...before[part], complete: preview?.complete ?? false } } : before,
    );
  const finish = async () => {
    const checks: Record<string, CheckDocument> = Object.fromEntries(
      Object.entries(sheets)
        .filter(([, sheet]) => sheet.complete)
        .map(([part, sheet]) => [part, toSend(sheet.draft.document)]),
    );
    const work = { lesson: lesson.name, seed, named, checks, blurs, seconds };
    try {
      setJudged(await judgeFault(work));
      await save({ lesson: lesson.name, title: lesson.title, seed, seconds, advised: false, fault: work });
    } catch (wrong) {
      setError(wrong);
    }
  };
  return { sheets, named, setNamed, judged, error, seconds, keep, take, finish };
}

function Search(props: SearchProps) {
  const { lesson, situation, seed, onAgain } = props;
  const { sheets, named, setNamed, judged, error, seconds, keep, take, finish } = useSearch(props);
  const [at, setAt] = useState(situation.parts[0]?.lesson.name ?? "");
  const part = situation.parts.find((each) => each.lesson.name === at);
  if (judged) return <InstrumentOutcome judged={judged} lesson={lesson} seed={seed} onAgain={onAgain} />;
  return (
    <div className="grid gap-3">
      <Head
        low
        title={lesson.title}
        sub={`Good enough: ${lesson.good_enough}. Situation ${seed}.`}
        actions={<Timer seconds={seconds} />}
      />
      <Trouble error={error} />
      <p className="text-[20px]" data-noticed>
        Noticed: <b className="font-semibold">{situation.noticed}</b>
      </p>
      {situation.parts.length > 1 && (
        <Choice
          label="Check"
          value={at}
          options={situation.parts.map((each) => ({
            value: each.lesson.name,
            label: each.title,
            ...(sheets[each.lesson.name]?.complete ? { hint: "done" } : {}),
          }))}
          onChange={setAt}
        />
      )}
      {part && (
        <PartReading
          key={at}
          part={part}
          draft={sheets[at]?.draft ?? null}
          onChange={(draft, blur) => keep(at, draft, blur)}
          onPreview={(preview) => take(at, preview)}
        />
      )}
      <section className="card grid gap-3 p-4" aria-label="What is wrong">
        <h2>What is wrong?</h2>
        <Choice
          label="What is wrong"
          value={named}
          options={lesson.names.map((each) => ({ value: each.name, label: each.label }))}
          onChange={setNamed}
        />
        <button className="btn now justify-self-start" disabled={!named} onClick={() => void finish()}>
          Finish
        </button>
      </section>
      <p>{lesson.aim}</p>
    </div>
  );
}
