// Before a round: how many minutes there are; the round chooses its checks from what is wanted most.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { instrumentQuery } from "../../api/queries";
import { usePerson } from "../../app/session";
import { beginRound, emptyRound } from "../../documents/readiness";
import { storeDraft } from "../../device/device";
import { Choice } from "../../ui/Choice";
import { Back, Head, Trouble, Waiting } from "../../ui/parts";
import { NO_CORE, usePreview } from "../../hooks/useQuestion";
import type { ReadinessPreview } from "../../api/client";
import { GoOn, useUnfinished } from "../../ui/GoOn";

const MINUTES = ["3", "5", "10", "15", "20"];

export function RoundBegin() {
  const { tag = "" } = useParams();
  const person = usePerson();
  const navigate = useNavigate();
  const instrument = useQuery(instrumentQuery(tag));
  const [minutes, setMinutes] = useState(() => localStorage.getItem("round-minutes") ?? "10");
  const open = useUnfinished(tag, "pre-survey");
  const { answer, fresh, trouble, noSignal } = usePreview<ReadinessPreview>(tag, emptyRound(Number(minutes)), "now");
  if (!instrument.data || open === undefined)
    return instrument.error ? <Trouble error={instrument.error} /> : <Waiting what="Opening the bench…" />;
  const proposed = answer?.proposed ?? [];
  const taken = proposed.filter((each) => each.taken);
  const start = async () => {
    localStorage.setItem("round-minutes", minutes);
    const draft = beginRound(tag, person.username, Number(minutes), proposed);
    await storeDraft(draft);
    await navigate(`/bench/readiness/${draft.id}`);
  };
  return (
    <div className="grid gap-4">
      <Head
        title={
          <>
            Pre-work check, <span className="tag">{tag}</span>
          </>
        }
        sub={`${instrument.data.model}. A few quick checks, then: go, adjust first, or do not take it.`}
        actions={<Back to={`/bench/new/${tag}`}>All checks of {tag}</Back>}
      />
      <GoOn tag={tag} open={open} />
      <section className="card grid gap-5 p-5" aria-label="Pre-work check">
        <div className="grid gap-2">
          <h2>Minutes available</h2>
          <Choice
            label="Minutes"
            value={minutes}
            options={MINUTES.map((value) => ({ value, label: value }))}
            onChange={setMinutes}
          />
        </div>
        {noSignal && <p className="fault">{NO_CORE}</p>}
        <Trouble error={trouble} />
        {answer && (
          <ol className="m-0 grid list-none gap-0 divide-y divide-line p-0" aria-label="Checks included">
            {proposed.map((each) => (
              <li
                key={each.check}
                data-proposed={each.check}
                data-taken={each.taken}
                className="grid gap-x-6 py-3 tab:grid-cols-[minmax(0,1fr)_auto]"
              >
                <span>
                  <b className={each.taken ? "" : "font-normal text-ink-2"}>{each.title}</b>
                  <span className="sub block">{each.why}</span>
                </span>
                <span className={each.taken ? "font-semibold" : "sub"}>
                  {each.taken ? `${each.minutes} min` : each.code === "no-time" ? "no time" : "not needed"}
                </span>
              </li>
            ))}
          </ol>
        )}
        {answer && proposed.length === 0 && <p>No quick check for {tag}: do one of its checks.</p>}
        {answer && proposed.length > 0 && taken.length === 0 && (
          <p className="font-semibold">Everything passed today: nothing to do.</p>
        )}
        {taken.length > 0 && (
          <button className="btn now site justify-self-start" disabled={!fresh} onClick={() => void start()}>
            Begin: {taken.length === 1 ? "one check" : `${taken.length} checks`}, about{" "}
            {taken.reduce((sum, each) => sum + each.minutes, 0)} minutes
          </button>
        )}
      </section>
    </div>
  );
}
