// How the firm writes and judges: one page for what the manager settles for everybody.
import { useState } from "react";
import { Problem, NoSignal, api, data } from "../../api/client";
import type { Writing } from "../../api/writing";
import { useNotify } from "../../app/notices";
import { useHere } from "../../app/session";
import { Back, Choice, Head, Trouble } from "../../ui/parts";
import { ANGLES, UNITS } from "../../ui/units";

const STAFF_WORDS = [
  { value: "staff" as const, label: "Staff" },
  { value: "rod" as const, label: "Rod" },
];
const MARKS = [
  { value: "." as const, label: "Point", hint: "24.1″" },
  { value: "," as const, label: "Comma", hint: "24,1″" },
];

export function Settings() {
  const { session, may } = useHere();
  const notify = useNotify();
  const [writing, setWriting] = useState<Writing>(session.writing);
  const [raw, setRaw] = useState(session.judge_raw);
  const [trouble, setTrouble] = useState<unknown>(null);
  const right = may("manage-fleet");
  const save = async () => {
    setTrouble(null);
    try {
      const { staff_word, decimal_mark, length_unit, angle_unit } = writing;
      await data(api.PUT("/api/organisation/writing", { body: { staff_word, decimal_mark, length_unit, angle_unit } }));
      if (raw !== session.judge_raw) await data(api.PUT("/api/organisation/raw-judging", { body: { judge_raw: raw } }));
      // Every sentence on the page is written again in the firm's words.
      location.reload();
    } catch (error) {
      if (error instanceof Problem) setTrouble(error);
      else notify({ text: error instanceof NoSignal ? "This needs a connection." : "Not saved. Try again." });
    }
  };
  return (
    <div className="grid gap-4">
      <Head title="Settings of your firm" sub="They hold for everybody, on every screen, print and export of a page. Records keep their figures." actions={<Back to="/people">People and sign-in</Back>} />
      <section className="card grid max-w-[760px] gap-6 p-5" aria-label="Settings">
        <Setting title="A levelling staff is called">
          <Choice label="A levelling staff is called" value={writing.staff_word} options={STAFF_WORDS} onChange={(staff_word) => setWriting({ ...writing, staff_word })} />
        </Setting>
        <Setting title="Decimal mark">
          <Choice label="Decimal mark" value={writing.decimal_mark} options={MARKS} onChange={(decimal_mark) => setWriting({ ...writing, decimal_mark })} />
        </Setting>
        <Setting title="Lengths in" sub="What is typed without a unit. Each person can still choose another for a check or an orientation; theirs is remembered.">
          <Choice label="Lengths in" value={writing.length_unit} options={UNITS as { value: Writing["length_unit"]; label: string }[]} onChange={(length_unit) => setWriting({ ...writing, length_unit })} />
        </Setting>
        <Setting title="Angles are typed as">
          <Choice label="Angles are typed as" value={writing.angle_unit} options={ANGLES as { value: Writing["angle_unit"]; label: string; hint?: string }[]} onChange={(angle_unit) => setWriting({ ...writing, angle_unit })} />
        </Setting>
        <Setting title="A two-face check judges">
          <Choice label="A two-face check judges" value={raw ? "raw" : "half"} options={[{ value: "half", label: "c and i", hint: "half of the face difference" }, { value: "raw", label: "2c and 2i", hint: "the face difference itself" }]} onChange={(value) => setRaw(value === "raw")} />
        </Setting>
        <Trouble error={trouble} />
        {right.allowed ? (
          <button className="btn now site justify-self-start" onClick={() => void save()}>
            Save settings
          </button>
        ) : (
          <p className="sub">{right.text}</p>
        )}
      </section>
    </div>
  );
}

function Setting({ title, sub, children }: { title: string; sub?: string; children: React.ReactNode }) {
  return (
    <div className="grid gap-2">
      <h2>{title}</h2>
      {children}
      {sub && <p className="sub">{sub}</p>}
    </div>
  );
}
