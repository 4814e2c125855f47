// What the work is, in one chip: asked once, remembered per job; effects, limits and the tolerance of centring follow.
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { classesQuery } from "../api/queries";
import { useHere } from "../app/session";
import type { Fault } from "../api/client";
import { type Work, currentJob, jobs, known, rememberJob, withUnit, workInWords } from "../documents/work";
import { Field } from "./Field";
import { Dialog } from "./parts";
import { WorkFields } from "./WorkFields";

type Props = { work: Work; unit: string; faults: Fault[]; onChange: (work: Work) => void };

export function WorkChip({ work, unit, faults, onChange }: Props) {
  const [open, setOpen] = useState(false);
  const wrong = faults.some((fault) => fault.path.startsWith("work"));
  return (
    <>
      <button
        type="button"
        data-work
        className={`relative min-h-[48px] shrink-0 whitespace-nowrap rounded-md px-3 text-left desk:min-h-[40px] ${wrong ? "border-2 border-dashed border-coral" : "border-[1.5px] border-ink"}`}
        onClick={() => setOpen(true)}
      >
        <span className="sub">Work</span> <b className="font-semibold">{workInWords(work, unit)}</b>
      </button>
      <Dialog title="What is the work?" open={open} onClose={() => setOpen(false)} wide>
        <WorkForm
          work={work}
          unit={unit}
          faults={faults}
          onDone={(next) => {
            onChange(next);
            setOpen(false);
          }}
        />
      </Dialog>
    </>
  );
}

function WorkForm({
  work: first,
  unit,
  faults,
  onDone,
}: {
  work: Work;
  unit: string;
  faults: Fault[];
  onDone: (work: Work) => void;
}) {
  const { session } = useHere();
  const classes = useQuery(classesQuery).data ?? [];
  const [work, setWork] = useState(first);
  const [job, setJob] = useState(currentJob);
  const take = (name: string) => {
    setJob(name);
    const held = jobs().find((each) => each.name === name);
    if (held) setWork({ ...(session.work as Work), ...held.work });
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const given = withUnit(known(work), unit);
    rememberJob(job, given);
    onDone(given);
  };
  return (
    <form className="grid gap-5" onSubmit={submit}>
      <div className="grid items-start gap-4 tab:grid-cols-2">
        <Field label="Job" sub="Remembered on this device, and used until another is named." faults={[]}>
          <input
            className="field"
            list="jobs"
            value={job}
            maxLength={60}
            autoComplete="off"
            placeholder="flood wall line"
            onChange={(event) => take(event.target.value)}
          />
          <datalist id="jobs">
            {jobs().map((each) => (
              <option key={each.name} value={each.name} />
            ))}
          </datalist>
        </Field>
        {classes.length > 0 && (
          <Field label="Class of work" sub="Your firm has set limits for it." faults={[]}>
            <select
              className="field"
              value={work.class_of_work ?? ""}
              onChange={(event) => setWork({ ...work, class_of_work: event.target.value })}
            >
              <option value="">None of these</option>
              {classes.map((name) => (
                <option key={name} value={name}>
                  {name}
                </option>
              ))}
            </select>
          </Field>
        )}
      </div>
      <WorkFields work={work} unit={unit} faults={faults} path="work" onChange={setWork} />
      <button className="btn now site justify-self-start">Use this</button>
    </form>
  );
}
