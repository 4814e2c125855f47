// The bench: begin a check, go on with one, see what waits to be sent, load one from a file.
import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useEffect, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import type { Kind } from "../../api/client";
import { kindsQuery } from "../../api/queries";
import { useOutbox } from "../../app/outbox";
import { useHere, usePerson } from "../../app/session";
import { type OutboxItem, dropOutboxItem, takeBack, unsentOfOthers } from "../../device/device";
import type { Draft } from "../../documents/draft";
import { countTyped, formOf } from "../../documents/form";
import { addressOf } from "../../documents/reopen";
import { stepsOf } from "../../documents/readiness";
import { draftOf } from "../../device/outbox";
import { useKind } from "../../hooks/useKinds";
import { OpenWork, useOpenWork } from "../../ui/OpenWork";
import { Dialog, FaultLine, Head, Waiting } from "../../ui/parts";
import { DueForUs, LastFindings } from "./BenchLists";
import { LoadFile } from "./LoadFile";
import { PickInstrument, useFleetHere } from "../../ui/PickInstrument";
import { moment } from "../../ui/words";

export function Bench() {
  const kinds = useQuery(kindsQuery).data;
  const [loading, setLoading] = useState(false);
  const mine = useOpenWork(ofTheBench);
  const fleetHere = useFleetHere();
  const { items } = useOutbox();
  // Drawn in slices, as the yard is.
  const here = useDeferredValue(Boolean(mine && kinds && fleetHere));
  if (!mine || !kinds || !here) return <Waiting what="Opening the bench…" />;
  return (
    <div className="grid gap-4">
      <Head
        title={mine.length ? (mine.length === 1 ? "One check is open" : `${mine.length} checks are open`) : "Bench"}
        sub={`${kinds.length} kinds of check, in the order they depend on each other.`}
        actions={
          <button className="btn" onClick={() => setLoading(true)}>
            Load from a file
          </button>
        }
      />
      <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_minmax(0,1.15fr)]">
        <div className="grid min-w-0 gap-4">
          <BeginOne kinds={kinds} />
          <OfOthers />
        </div>
        <div className="grid min-w-0 gap-4">
          {items.length > 0 && <OutboxList items={items} />}
          <OpenWork
            label="Open checks"
            drafts={mine}
            title={(draft) => <DraftTitle draft={draft} />}
            detail={(draft) => <DraftProgress draft={draft} />}
          />
          <DueForUs />
          <LastFindings />
        </div>
      </div>
      <Dialog title="Load a check from a file" open={loading} onClose={() => setLoading(false)}>
        <LoadFile kinds={kinds} />
      </Dialog>
    </div>
  );
}

/** Choosing an instrument is a search that waits for typing; a check found by its name asks which instrument it is for. */
function BeginOne({ kinds }: { kinds: Kind[] }) {
  const navigate = useNavigate();
  const [params, setParams] = useSearchParams();
  const sought = kinds.find((kind) => kind.kind === params.get("check"));
  const offered = sought ? [sought] : kinds;
  const appliesTo = [...new Set(offered.flatMap((kind) => kind.applies_to))];
  return (
    <section className="card grid gap-3 p-5" aria-label="Begin a check">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2>{sought ? sought.title : "Begin a check"}</h2>
        {sought && (
          <button className="link" onClick={() => setParams({})}>
            Any check
          </button>
        )}
      </div>
      <PickInstrument
        value=""
        missing={false}
        focused={matchMedia("(pointer: fine)").matches}
        searchable
        kinds={appliesTo}
        onChange={(tag) => void navigate(sought ? `/bench/new/${tag}/${sought.kind}` : `/bench/new/${tag}`)}
      />
    </section>
  );
}

/** Work of others that waits here sealed: that it is there, and what it waits for. */
function OfOthers() {
  const { username } = usePerson();
  const [count, setCount] = useState(0);
  useEffect(() => {
    let here = true;
    void unsentOfOthers(username).then((found) => here && setCount(found));
    return () => {
      here = false;
    };
  }, [username]);
  if (!count) return null;
  return (
    <p className="sub" data-of-others>
      {count === 1 ? "One thing" : `${count} things`} made by another user waits on this device until they sign in
      again. It is encrypted.
    </p>
  );
}

const ofTheBench = (draft: Draft) => addressOf(draft).startsWith("/bench/");

function DraftTitle({ draft }: { draft: Draft }) {
  const title = useKind(draft.kind)?.title;
  return (
    <>
      {title ?? (draft.kind === "pre-survey" ? "Pre-work check" : draft.kind)}
      {draft.stage === "as-left" ? ", as left" : ""}
    </>
  );
}

function DraftProgress({ draft }: { draft: Draft }) {
  const kind = useKind(draft.kind);
  if (draft.kind === "pre-survey")
    return <>{`${stepsOf(draft).filter((step) => step.record).length} of ${stepsOf(draft).length} checks done.`}</>;
  return <>{kind ? count(countTyped(draft.document, formOf(kind, draft.document))) : ""}</>;
}

function count(n: number): string {
  return n === 0 ? "No readings yet." : n === 1 ? "1 reading." : `${n} readings.`;
}

/** What waits to be sent, and what was not taken, with its reasons and the way back to the sheet. */
function OutboxList({ items }: { items: OutboxItem[] }) {
  const { sendNow, online } = useOutbox();
  const { session } = useHere();
  const navigate = useNavigate();
  const back = async (item: OutboxItem) => {
    const draft = draftOf(item);
    await takeBack(item, draft);
    await navigate(addressOf(draft));
  };
  return (
    <section className="card" aria-label="Waiting to be sent">
      <div className="flex flex-wrap items-center justify-between gap-3 px-5 pt-3">
        <h2>{items.some((item) => item.state === "refused") ? "Some items were rejected" : "Waiting to be sent"}</h2>
        <button className="btn" disabled={!online} onClick={() => void sendNow()}>
          Send now
        </button>
      </div>
      <ul className="m-0 list-none divide-y divide-line p-0">
        {items.map((item) => (
          <li key={item.id} data-outbox={item.state} className="grid gap-2 px-5 py-3">
            <div className="flex flex-wrap items-center justify-between gap-3">
              <span>
                <b>{item.title}</b>
                {item.device_result && <span className="block">{item.device_result.result.finding.text}</span>}
                <span className="sub block">
                  {moment(item.madeAt, session.time_zone)}.{" "}
                  {item.state === "waiting"
                    ? "Stored here; sent automatically when you are online."
                    : (item.problem?.title ?? "Rejected.")}
                </span>
              </span>
              {item.path.startsWith("/api/checks/") ? (
                <span className="flex flex-wrap gap-2">
                  {item.device_result && (
                    <Link className="btn" to={`/records/${item.id}`}>
                      View
                    </Link>
                  )}
                  <button className="btn" onClick={() => void back(item)}>
                    {item.state === "waiting" ? "Undo" : "Open again"}
                  </button>
                </span>
              ) : (
                <button className="btn" onClick={() => void dropOutboxItem(item.id)}>
                  Do not send
                </button>
              )}
            </div>
            {item.problem?.faults.map((fault) => (
              <FaultLine key={fault.path} fault={fault} />
            ))}
          </li>
        ))}
      </ul>
    </section>
  );
}
