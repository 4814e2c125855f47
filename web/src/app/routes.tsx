// Addresses. The yard comes with the first script; the other places when they are first entered, or ahead of it.
import { type ComponentType } from "react";
import { Link, Navigate, type RouteObject, createBrowserRouter } from "react-router";
import { Yard } from "../features/fleet";
import { Head, Waiting } from "../ui/parts";
import { type Feature, feature } from "./pages";
import { Shell } from "./Shell";

type Loaded<F extends Feature> = Awaited<ReturnType<(typeof feature)[F]>>;
const later = <F extends Feature>(name: F, pick: (loaded: Loaded<F>) => ComponentType) => async () => ({ Component: pick((await feature[name]()) as Loaded<F>) });

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

const PAGES: RouteObject[] = [
  { path: "/join/:link", ErrorBoundary: Fallen, lazy: later("people", (loaded) => loaded.Join) },
  {
    path: "/",
    Component: Shell,
    ErrorBoundary: Fallen,
    HydrateFallback: () => (
      <div className="p-8">
        <Waiting what="Loading…" />
      </div>
    ),
    children: [
      { index: true, Component: Yard },
      { path: "today", Component: Yard },
      { path: "fleet", Component: Yard },
      { path: "instruments/:tag", lazy: later("instrument", (loaded) => loaded.Instrument) },
      { path: "compare", lazy: later("compare", (loaded) => loaded.Compare) },
      { path: "records/:id", lazy: later("records", (loaded) => loaded.RecordPage) },
      { path: "set-up", lazy: later("setup", (loaded) => loaded.NewSetUp) },
      { path: "set-up/:id", lazy: later("setup", (loaded) => loaded.SetUp) },
      { path: "orientation", lazy: later("orientation", (loaded) => loaded.NewOrientation) },
      { path: "orientation/:id", lazy: later("orientation", (loaded) => loaded.OrientationPage) },
      { path: "angles", lazy: later("orientation", (loaded) => loaded.AnglePage) },
      { path: "forecast", lazy: later("budget", (loaded) => loaded.BudgetPage) },
      { path: "points", lazy: later("points", (loaded) => loaded.Points) },
      { path: "bench", lazy: later("bench", (loaded) => loaded.Bench) },
      { path: "bench/new/:tag", lazy: later("checks", (loaded) => loaded.Choose) },
      { path: "bench/new/:tag/:kind", lazy: later("checks", (loaded) => loaded.Begin) },
      { path: "bench/plan/:tag", lazy: later("checks", (loaded) => loaded.PlanPage) },
      { path: "bench/readiness/new/:tag", lazy: later("readiness", (loaded) => loaded.RoundBegin) },
      { path: "bench/readiness/:id", lazy: later("readiness", (loaded) => loaded.Round) },
      { path: "bench/:id", lazy: later("checks", (loaded) => loaded.Entry) },
      ...["bench/table", "orientation/table", "points/table"].map((path) => ({ path, lazy: later("tables", (loaded) => loaded.TablePage) })),
      { path: "plan", lazy: later("plan", (loaded) => loaded.DuePage) },
      { path: "plan/calendar", lazy: later("plan", (loaded) => loaded.Calendar) },
      { path: "plan/jobs", lazy: later("plan", (loaded) => loaded.Jobs) },
      { path: "plan/jobs/:id", lazy: later("plan", (loaded) => loaded.KitPage) },
      { path: "plan/service", lazy: later("plan", (loaded) => loaded.Service) },
      { path: "plan/rules", lazy: later("plan", (loaded) => loaded.Rules) },
      { path: "ledger", lazy: later("ledger", (loaded) => loaded.Ledger) },
      { path: "practice", lazy: later("practice", (loaded) => loaded.Practice) },
      { path: "practice/progress", lazy: later("practice", (loaded) => loaded.ProgressPage) },
      { path: "practice/people", lazy: later("practice", (loaded) => loaded.PeoplePage) },
      { path: "practice/runs/:id", lazy: later("practice", (loaded) => loaded.RunPage) },
      { path: "practice/instruments/:lesson", lazy: later("practice", (loaded) => loaded.InstrumentPage) },
      { path: "practice/faults/:lesson", lazy: later("practice", (loaded) => loaded.FaultPage) },
      { path: "practice/mornings/:lesson", lazy: later("practice", (loaded) => loaded.MorningPage) },
      { path: "practice/:lesson", lazy: later("practice", (loaded) => loaded.StandPage) },
      { path: "settings", lazy: later("settings", (loaded) => loaded.Settings) },
      { path: "settings/models", lazy: later("settings", (loaded) => loaded.Models) },
      { path: "settings/limits", lazy: later("settings", (loaded) => loaded.Limits) },
      { path: "settings/safe-keeping", lazy: later("settings", (loaded) => loaded.SafeKeeping) },
      { path: "settings/people", lazy: later("people", (loaded) => loaded.People) },
      { path: "settings/you", lazy: later("people", (loaded) => loaded.You) },
      { path: "people", element: <Navigate to="/settings/people" replace /> },
      { path: "*", Component: Nowhere },
    ],
  },
];

export const makeRouter = () => createBrowserRouter(PAGES);
