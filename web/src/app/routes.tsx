// Addresses. The yard comes with the first script; the other places when they are first entered.
import { type ComponentType } from "react";
import { Link, createBrowserRouter } from "react-router";
import { Yard } from "../places/yard/Yard";
import { Head } from "../ui/parts";
import { Shell } from "./Shell";

const later = (load: () => Promise<ComponentType>) => async () => ({ Component: await load() });

function Nowhere() {
  return (
    <Head
      title="There is nothing at this address"
      sub={
        <Link className="link" to="/">
          To the yard
        </Link>
      }
    />
  );
}

/** A page that fell over: said plainly, with the way back; drafts are on the device and not touched. */
function Fallen() {
  return (
    <main className="mx-auto grid max-w-[620px] gap-4 p-8">
      <h1>This page could not be shown</h1>
      <p>What you typed is on this device. Load the page again; if it stays so, go back to the yard.</p>
      <div className="flex gap-3">
        <button className="btn" onClick={() => location.reload()}>
          Load again
        </button>
        <a className="btn" href="/">
          To the yard
        </a>
      </div>
    </main>
  );
}

export const router = createBrowserRouter([
  {
    path: "/",
    Component: Shell,
    ErrorBoundary: Fallen,
    HydrateFallback: () => <p className="p-8">One moment…</p>,
    children: [
      { index: true, Component: Yard },
      { path: "instruments/:tag", lazy: later(async () => (await import("../places/instrument/Instrument")).Instrument) },
      { path: "records/:id", lazy: later(async () => (await import("../places/record/Record")).RecordPage) },
      { path: "stand", lazy: later(async () => (await import("../places/stand/Stand")).Stand) },
      { path: "stand/orient", lazy: later(async () => (await import("../places/orient/NewOrientation")).NewOrientation) },
      { path: "stand/orient/:id", lazy: later(async () => (await import("../places/orient/Orient")).Orient) },
      { path: "stand/budget", lazy: later(async () => (await import("../places/budget/Budget")).BudgetPage) },
      { path: "stand/angle", lazy: later(async () => (await import("../places/orient/Angle")).AnglePage) },
      { path: "people", lazy: later(async () => (await import("../places/people/People")).People) },
      { path: "points", lazy: later(async () => (await import("../places/points/Points")).Points) },
      { path: "stand/:id", lazy: later(async () => (await import("../places/stand/SetUp")).SetUp) },
      { path: "bench", lazy: later(async () => (await import("../places/bench/Bench")).Bench) },
      { path: "bench/new/:tag", lazy: later(async () => (await import("../places/bench/Choose")).Choose) },
      { path: "bench/new/:tag/:kind", lazy: later(async () => (await import("../places/bench/Begin")).Begin) },
      { path: "bench/round/new/:tag", lazy: later(async () => (await import("../places/bench/RoundBegin")).RoundBegin) },
      { path: "bench/round/:id", lazy: later(async () => (await import("../places/bench/Round")).Round) },
      { path: "bench/plan/:tag", lazy: later(async () => (await import("../places/bench/Plan")).PlanPage) },
      { path: "bench/:id", lazy: later(async () => (await import("../places/bench/Entry")).Entry) },
      { path: "*", Component: Nowhere },
    ],
  },
]);
