// The morning's choice of kit: a job, what the book holds of five instruments, one to take with the checks it needs.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { written } from "../../api/writing";
import { type Morning, type MorningJudged, type MorningLesson, judgeMorning, morningOf } from "../../engine/practice";
import { Head, Trouble, Waiting } from "../../ui/parts";
import { useSeconds } from "./instruments/useSeconds";
import { MorningOutcome } from "./MorningOutcome";
import { Timer } from "./Timer";
import { morningsQuery } from "./useLessons";
import { useSaveRun } from "./useSaveRun";
import { useSeed } from "./useSeed";
import { useTrouble } from "../../ui/refusal";

export function MorningPage() {
  const { lesson: name = "" } = useParams();
  const { seed, tries, again } = useSeed();
  const lessons = useQuery(morningsQuery);
  const morning = useQuery({
    queryKey: ["practice-morning", name, seed],
    queryFn: () => morningOf({ lesson: name, seed }),
    staleTime: Infinity,
  });
  const lesson = lessons.data?.find((each) => each.name === name);
  if (lessons.data && !lesson) return <Head title="No such lesson" sub="Choose one in Practice." />;
  if (lessons.error ?? morning.error) return <Trouble error={lessons.error ?? morning.error} />;
  if (!lesson || !morning.data) return <Waiting what="Opening the book…" />;
  return (
    <Choosing key={`${name} ${seed} ${tries}`} lesson={lesson} morning={morning.data} seed={seed} onAgain={again} />
  );
}

type ChoosingProps = { lesson: MorningLesson; morning: Morning; seed: number; onAgain: (seed: number) => void };

function useChoice({ lesson, seed }: ChoosingProps) {
  const [tag, setTag] = useState("");
  const [checks, setChecks] = useState<string[]>([]);
  const [judged, setJudged] = useState<MorningJudged | null>(null);
  const [error, setError] = useTrouble();
  const seconds = useSeconds(judged === null);
  const save = useSaveRun();
  const take = (next: string) => {
    setTag(next);
    setChecks([]);
  };
  const tick = (check: string) =>
    setChecks(checks.includes(check) ? checks.filter((each) => each !== check) : [...checks, check]);
  const finish = async () => {
    const work = { lesson: lesson.name, seed, tag, checks, seconds };
    try {
      setJudged(await judgeMorning(work));
      await save({ lesson: lesson.name, title: lesson.title, seed, seconds, advised: false, morning: work });
    } catch (wrong) {
      setError(wrong);
    }
  };
  return { tag, take, checks, tick, judged, error, seconds, finish };
}

function Choosing(props: ChoosingProps) {
  const { lesson, morning, seed, onAgain } = props;
  const { tag, take, checks, tick, judged, error, seconds, finish } = useChoice(props);
  if (judged) return <MorningOutcome judged={judged} lesson={lesson} seed={seed} job={morning.job} onAgain={onAgain} />;
  const minutes =
    morning.instruments
      .find((each) => each.tag === tag)
      ?.checks.filter((each) => checks.includes(each.check))
      .reduce((sum, each) => sum + each.minutes, 0) ?? 0;
  return (
    <div className="grid gap-3">
      <Head
        low
        title={lesson.title}
        sub={`Good enough: ${lesson.good_enough}. Situation ${seed}.`}
        actions={<Timer seconds={seconds} />}
      />
      <Trouble error={error} />
      <p className="text-[20px]" data-job>
        The job: <b className="font-semibold">{written(morning.job)}</b>
      </p>
      <ul
        className="m-0 grid list-none items-start gap-3 p-0 tab:grid-cols-2 desk:grid-cols-3"
        aria-label="Instruments"
      >
        {morning.instruments.map((each) => (
          <Choosable
            key={each.tag}
            of={each}
            taken={tag === each.tag}
            checks={checks}
            onTake={() => take(each.tag)}
            onTick={tick}
          />
        ))}
        <li className="grid gap-2">
          <button className="btn now site" disabled={!tag} onClick={() => void finish()}>
            {tag ? `Leave with ${tag}${minutes ? ` after ${minutes} minutes` : ""}` : "Leave"}
          </button>
          <p className="sub">{lesson.aim}</p>
        </li>
      </ul>
    </div>
  );
}

type ChoosableProps = {
  of: Morning["instruments"][number];
  taken: boolean;
  checks: string[];
  onTake: () => void;
  onTick: (check: string) => void;
};

function Choosable({ of, taken, checks, onTake, onTick }: ChoosableProps) {
  return (
    <li className="card grid gap-2 p-4" data-instrument={of.tag}>
      <button
        className="btn tag justify-self-start aria-pressed:!bg-ink aria-pressed:!text-card"
        aria-pressed={taken}
        onClick={onTake}
      >
        Take {of.tag}
      </button>
      <p className="font-semibold">{written(of.stated)}</p>
      <ul className="m-0 grid list-none gap-1 p-0">
        {of.facts.map((fact) => (
          <li key={fact}>{written(fact)}</li>
        ))}
      </ul>
      {taken && (
        <fieldset className="m-0 grid gap-1 border-0 border-t border-line p-0 pt-2">
          <legend className="sr-only">Checks before leaving</legend>
          <p className="sub">Before leaving:</p>
          {of.checks.map((check) => (
            <label key={check.check} className="flex min-h-[44px] items-center gap-3">
              <input
                type="checkbox"
                className="size-5 accent-[var(--color-ink)]"
                checked={checks.includes(check.check)}
                onChange={() => onTick(check.check)}
              />
              <span className="min-w-0 flex-1">{check.title}</span>
              <span className="sub">{check.minutes} min</span>
            </label>
          ))}
        </fieldset>
      )}
    </li>
  );
}
