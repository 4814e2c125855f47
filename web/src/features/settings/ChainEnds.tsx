// The ends of all chains in a line a day: printed or kept elsewhere, it shows when even the whole database was replaced.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { type Schemas, api, data } from "../../api/client";
import { chainEndsQuery } from "../../api/queries";
import { Trouble } from "../../ui/parts";
import { day } from "../../ui/words";
import { useTrouble } from "../../ui/refusal";

export function ChainEnds() {
  const query = useQuery(chainEndsQuery);
  return (
    <section className="card grid gap-3 p-5" aria-label="Ends of all chains">
      <h2>The ends of all chains</h2>
      <p className="sub">
        One line a day says how every instrument's records end. Print it, or keep it where this server cannot write: as
        long as it comes out again, nothing before that day was changed.
      </p>
      <Trouble error={query.error} />
      {query.data && (
        <div className="grid gap-1 rounded-md border border-line p-3" data-chain-ends>
          <p>
            {day(query.data.day, "UTC")}: {query.data.records} records of {query.data.instruments} instruments, up to
            arrival {query.data.arrival}
          </p>
          <p className="break-all font-mono text-[15px]">{query.data.digest}</p>
        </div>
      )}
      <div className="no-print flex flex-wrap gap-2">
        <button className="btn" onClick={() => void navigator.clipboard.writeText(query.data?.text ?? "")}>
          Copy the line
        </button>
        <button className="btn" onClick={() => window.print()}>
          Print
        </button>
      </div>
      <Compare />
    </section>
  );
}

function Compare() {
  const [text, setText] = useState("");
  const [found, setFound] = useState<Schemas["HeadDifference"][] | null>(null);
  const [trouble, setTrouble] = useTrouble();
  const compare = async () => {
    setTrouble(null);
    try {
      setFound(await data(api.POST("/api/chain-ends/table", { body: { text } })));
    } catch (error) {
      setTrouble(error);
    }
  };
  return (
    <form
      className="no-print grid gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void compare();
      }}
    >
      <label className="sub grid gap-1">
        Lines of earlier days
        <textarea
          className="field min-h-[72px] font-mono text-[15px]"
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setFound(null);
          }}
        />
      </label>
      <button className="btn justify-self-start" disabled={!text.trim()}>
        Compare
      </button>
      <Trouble error={trouble} />
      {found &&
        (found.length ? (
          found.map((each) => (
            <p key={each.line} className="fault" data-differs>
              {each.text}
            </p>
          ))
        ) : (
          <p className="font-semibold" data-same>
            Every line comes out again: the records up to those days are unchanged.
          </p>
        ))}
    </form>
  );
}
