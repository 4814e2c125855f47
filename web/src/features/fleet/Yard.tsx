// The yard: today's instruments for a crew, the whole fleet for whoever compares. The manager lands on the fleet.
import { useQuery } from "@tanstack/react-query";
import { Suspense, lazy, useCallback, useDeferredValue, useState } from "react";
import { useLocation, useNavigate } from "react-router";
import { fleetQuery, jobsQuery } from "../../api/queries";
import { useHere, usePerson } from "../../app/session";
import { NoteEvent } from "../../ui/NoteEvent";
import { ScanButton } from "../../ui/Scan";
import { Tabs } from "../../ui/Tabs";
import { Trouble, Waiting } from "../../ui/parts";
import { Today } from "./Today";

const AddInstrument = lazy(() => import("./AddInstrument"));
const FleetFile = lazy(() => import("./FleetFile"));
const Fleet = lazy(() => import("./Fleet"));

const TABS = [
  { to: "/today", name: "Today" },
  { to: "/fleet", name: "Fleet" },
];

export function Yard() {
  const at = useLocation().pathname;
  const { may } = useHere();
  const { role } = usePerson();
  const fleet = useQuery(fleetQuery);
  const [dialog, setDialog] = useState<"add" | "note" | "file" | null>(null);
  // The next job stands above the instruments: they come together, so that nothing moves under the finger.
  const jobs = useQuery(jobsQuery);
  const whole = at === "/fleet" || (at === "/" && role === "manager");
  // Drawn in slices, so that a slow device still answers a touch meanwhile.
  const answer = useDeferredValue(fleet.data);
  const rows = whole || !jobs.isPending ? answer?.rows : undefined;
  const navigate = useNavigate();
  const scanned = useCallback((tag: string) => void navigate(`/instruments/${tag}`), [navigate]);
  const actions = (
    <>
      <ScanButton compact onTag={scanned} />
      {whole && (
        <button className="btn !px-4 desk:!min-h-[38px]" onClick={() => setDialog("file")}>
          File
        </button>
      )}
      {may("manage-fleet").allowed && (
        <button className="btn !px-4 desk:!min-h-[38px]" onClick={() => setDialog("add")}>
          Add an instrument
        </button>
      )}
      <button className="btn !px-4 desk:!min-h-[38px]" onClick={() => setDialog("note")}>
        Report what happened
      </button>
    </>
  );
  return (
    <div className={`grid grid-cols-[minmax(0,1fr)] ${whole ? "gap-2" : "gap-4"}`}>
      <Tabs
        label="Yard"
        tabs={at === "/" ? TABS.map((tab) => ((tab.to === "/fleet") === whole ? { ...tab, to: "/" } : tab)) : TABS}
        end={whole ? actions : undefined}
      />
      {!rows && !fleet.isError && <Waiting what="Loading the yard…" />}
      <Trouble error={fleet.error} />
      {rows && !rows.length && <Nothing />}
      {rows &&
        rows.length > 0 &&
        (whole ? (
          <Suspense fallback={<Waiting what="Loading the fleet…" />}>
            <Fleet rows={rows} />
          </Suspense>
        ) : (
          <Today rows={rows} summaries={answer?.summaries ?? {}} actions={actions} />
        ))}
      {rows && !rows.length && !whole && <div className="flex flex-wrap gap-3">{actions}</div>}
      {dialog === "add" && (
        <Suspense fallback={null}>
          <AddInstrument open onClose={() => setDialog(null)} />
        </Suspense>
      )}
      {dialog === "file" && (
        <Suspense fallback={null}>
          <FleetFile open onClose={() => setDialog(null)} />
        </Suspense>
      )}
      <NoteEvent open={dialog === "note"} onClose={() => setDialog(null)} />
    </div>
  );
}

function Nothing() {
  return (
    <section className="card grid gap-2 p-6">
      <h1>No instruments yet</h1>
      <p>
        The equipment manager adds them, each with its model and stated accuracy. They then appear here with what each
        needs.
      </p>
    </section>
  );
}
