// Every digest of every record computed again, instrument by instrument, and what was found in words.
import { useState } from "react";
import { Link } from "react-router";
import { steps } from "../../api/steps";
import { Trouble } from "../../ui/parts";
import { Bar } from "./Bar";
import { useTrouble } from "../../ui/refusal";

type Line = {
  instrument: string;
  records: number;
  wrong: { record: string | null; text: string }[];
  done: number;
  of: number;
};
type Sum = { ok: boolean; records: number; wrong: number };
type Found = { record: string | null; text: string; instrument: string };

export function Verify() {
  const [at, setAt] = useState<{ done: number; of: number } | null>(null);
  const [sum, setSum] = useState<Sum | null>(null);
  const [found, setFound] = useState<Found[]>([]);
  const [trouble, setTrouble] = useTrouble();
  const verify = async () => {
    setSum(null);
    setFound([]);
    setTrouble(null);
    setAt({ done: 0, of: 0 });
    try {
      const last = await steps<Line | Sum>("GET", "/api/health/chains?since=0", null, (line) => {
        if (!("of" in line)) return;
        setAt({ done: line.done, of: line.of });
        if (line.wrong.length)
          setFound((now) => [...now, ...line.wrong.map((each) => ({ ...each, instrument: line.instrument }))]);
      });
      setSum(last as Sum);
    } catch (error) {
      setTrouble(error);
    }
    setAt(null);
  };
  return (
    <section className="card grid gap-3 p-5" aria-label="Records whole">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <h2>Are the records whole?</h2>
        <button className="btn" disabled={at !== null} onClick={() => void verify()}>
          Verify all records
        </button>
      </div>
      <p className="sub">
        Each record carries a digest of all that is in it and of the record before it. Computed again, they show whether
        anything was changed, removed or put in between.
      </p>
      {at && <Bar {...at} what="instruments" />}
      <Trouble error={trouble} />
      {sum && (
        <p className={sum.ok ? "font-semibold" : "fault"} data-verified={sum.ok}>
          {sum.ok
            ? `All ${sum.records} records are whole, and no chain has a gap.`
            : `${sum.wrong} findings in ${sum.records} records. Do not rely on these before they are explained.`}
        </p>
      )}
      {found.length > 0 && (
        <ul className="m-0 grid list-none gap-2 p-0">
          {found.map((each, i) => (
            <li key={i} data-wrong>
              <Link
                className="tag font-bold"
                to={each.record ? `/records/${each.record}` : `/instruments/${each.instrument}`}
              >
                {each.instrument}
              </Link>{" "}
              {each.text}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
