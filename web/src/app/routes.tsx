// Addresses. The yard comes with the first script; the other places when they are first entered.
import { type ComponentType } from "react";
import { Link, createBrowserRouter } from "react-router";
import { Yard } from "../features/fleet";
import { Head } from "../ui/parts";
import { Shell } from "./Shell";

const later = (load: () => Promise<ComponentType>) => async () => ({ Component: await load() });

function Nowhere() {
  return (
    <Head
      title="Page not found"
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
      <h1>This page could not be displayed</h1>
      <p>Your entries are stored on this device. Reload the page; if that does not help, go back to the yard.</p>
      <div className="flex gap-3">
        <button className="btn" onClick={() => location.reload()}>
          Reload
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
      { path: "instruments/:tag", lazy: later(async () => (await import("../features/instrument")).Instrument) },
      { path: "records/:id", lazy: later(async () => (await import("../features/records")).RecordPage) },
      { path: "set-up", lazy: later(async () => (await import("../features/setup")).NewSetUp) },
      { path: "orientation", lazy: later(async () => (await import("../features/orientation")).NewOrientation) },
      { path: "orientation/:id", lazy: later(async () => (await import("../features/orientation")).OrientationPage) },
      { path: "forecast", lazy: later(async () => (await import("../features/budget")).BudgetPage) },
      { path: "angles", lazy: later(async () => (await import("../features/orientation")).AnglePage) },
      { path: "people", lazy: later(async () => (await import("../features/people")).People) },
      { path: "settings", lazy: later(async () => (await import("../features/settings")).Settings) },
      { path: "points", lazy: later(async () => (await import("../features/points")).Points) },
      { path: "set-up/:id", lazy: later(async () => (await import("../features/setup")).SetUp) },
      { path: "bench", lazy: later(async () => (await import("../features/checks")).Bench) },
      { path: "bench/new/:tag", lazy: later(async () => (await import("../features/checks")).Choose) },
      { path: "bench/new/:tag/:kind", lazy: later(async () => (await import("../features/checks")).Begin) },
      { path: "bench/readiness/new/:tag", lazy: later(async () => (await import("../features/readiness")).RoundBegin) },
      { path: "bench/readiness/:id", lazy: later(async () => (await import("../features/readiness")).Round) },
      { path: "bench/plan/:tag", lazy: later(async () => (await import("../features/checks")).PlanPage) },
      { path: "bench/:id", lazy: later(async () => (await import("../features/checks")).Entry) },
      { path: "*", Component: Nowhere },
    ],
  },
]);
