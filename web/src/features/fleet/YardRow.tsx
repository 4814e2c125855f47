import { Link } from "react-router";
import type { InstrumentRow } from "../../api/client";
import { useKind } from "../../hooks/useKinds";
import { GradeMark, LimitBar } from "../../ui/icons";
import { closed, whereabouts } from "../../ui/words";

export function YardRow({ row }: { row: InstrumentRow }) {
  const { latest, standing } = row;
  const kind = useKind(latest?.check);
  return (
    <li
      data-instrument={row.tag}
      className="grid grid-cols-[88px_1fr] items-center gap-x-4 gap-y-1 px-4 py-3 tab:px-6 desk:grid-cols-[88px_minmax(0,1.1fr)_116px_minmax(0,310px)_196px]"
    >
      <Link to={`/instruments/${row.tag}`} className="tag self-start text-[22px] font-[700] leading-[44px] no-underline hover:underline">
        {row.tag}
      </Link>
      <div>
        <b className="font-[640]">{row.model}</b>
        <span className="sub block">{whereabouts(row)}</span>
      </div>
      {latest ? (
        <>
          <div className="max-desk:col-start-2 max-desk:pt-1">
            <GradeMark grade={latest.grade as never} />
          </div>
          <div className="flex items-center gap-3 max-desk:col-start-2">
            <span className="sub w-[92px] shrink-0 desk:text-right">{kind?.quantity_label ?? ""}</span>
            <LimitBar value={latest.value} u95={latest.u95} limit={latest.limit} label={latest.finding} width={150} />
            <b className="whitespace-nowrap tabular-nums">{latest.text}</b>
          </div>
        </>
      ) : (
        <div className="sub max-desk:col-start-2 desk:col-span-2">No check on record</div>
      )}
      <div className="col-start-2 max-desk:col-start-2 desk:col-start-5 desk:row-span-2 desk:row-start-1 max-desk:order-last max-desk:pt-2">
        <NextAction row={row} />
      </div>
      <p className="col-start-2 desk:col-[2/5] desk:row-start-2">
        {standing.reasons.slice(0, 2).map((reason) => (
          <span key={reason.code}>{closed(reason.text)} </span>
        ))}
      </p>
    </li>
  );
}

function NextAction({ row }: { row: InstrumentRow }) {
  const { latest, standing } = row;
  const due = standing.checks.find((check) => check.state === standing.state);
  if (standing.state === "hold" && latest && ["adjust", "service"].includes(latest.grade))
    return (
      <Link className="btn w-full max-desk:w-auto" to={`/records/${latest.id}`}>
        {latest.grade === "adjust" ? "Adjust or review" : "Details"}
      </Link>
    );
  if (due && ["check-first", "hold"].includes(standing.state))
    return (
      <Link className="btn w-full max-desk:w-auto" to={`/bench/new/${row.tag}/${due.check}`}>
        Check it, {due.minutes} minutes
      </Link>
    );
  return (
    <Link className="btn w-full max-desk:w-auto" to={`/instruments/${row.tag}`}>
      Open
    </Link>
  );
}
