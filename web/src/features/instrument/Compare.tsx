// Instruments somebody chose, compared in one check; the address holds the choice.
import { useQuery } from "@tanstack/react-query";
import { useAddress } from "../../hooks/useAddress";
import { fleetQuery, kindsQuery } from "../../api/queries";
import { useHere } from "../../app/session";
import { Compared } from "../../ui/Compared";
import { Back, Head, Trouble, Waiting } from "../../ui/parts";

export function Compare() {
  const { now } = useHere();
  const [params, setParams] = useAddress();
  const fleet = useQuery(fleetQuery);
  const kinds = useQuery(kindsQuery).data;
  const tags = (params.get("tags") ?? "").split(",").filter(Boolean);
  const rows = (fleet.data?.rows ?? [])
    .filter((row) => tags.includes(row.tag))
    .sort((a, b) => a.tag.localeCompare(b.tag));
  const offered = (kinds ?? [])
    .map((kind) => ({ ...kind, of: rows.filter((row) => kind.applies_to.includes(row.kind)).map((row) => row.tag) }))
    .filter((kind) => kind.of.length > 0);
  // What most of them share is compared first.
  const first = [...offered].sort((a, b) => b.of.length - a.of.length)[0];
  const shown = offered.find((kind) => kind.kind === params.get("of")) ?? first;
  if (!fleet.data || !kinds)
    return fleet.error ? <Trouble error={fleet.error} /> : <Waiting what="Loading the series…" />;
  if (!shown)
    return (
      <Head
        title="Compare"
        sub="Choose instruments in the fleet, then Compare."
        actions={<Back to="/fleet">To the fleet</Back>}
      />
    );
  const others = rows.filter((row) => !shown.of.includes(row.tag)).map((row) => row.tag);
  return (
    <div className="grid gap-4">
      <Head
        title={`${shown.title}: ${shown.of.length} ${shown.of.length === 1 ? "instrument" : "instruments"}`}
        sub={`The same years and one scale for all, each result against its limit.${others.length ? ` Not made of this: ${others.join(", ")}.` : ""}`}
        actions={
          <>
            <select
              className="field !w-auto"
              aria-label="Which check"
              value={shown.kind}
              onChange={(event) =>
                setParams((all) => {
                  all.set("of", event.target.value);
                  return all;
                })
              }
            >
              {offered.map((kind) => (
                <option key={kind.kind} value={kind.kind}>
                  {kind.title}
                </option>
              ))}
            </select>
            <Back to="/fleet">To the fleet</Back>
          </>
        }
      />
      <section className="card p-4 tab:p-5" aria-label="Compared">
        <Compared tags={shown.of} of={shown.kind} today={now} label={shown.title} />
      </section>
    </div>
  );
}
