// Addresses. The yard comes with the first script; the other places when they are first entered, or ahead of it.
import { type ComponentType } from "react";
import { Link, Navigate, Route, Routes, matchPath, useLocation } from "react-router";
import { Yard } from "../features/fleet";
import { Head } from "../ui/parts";
import { Fallen } from "./Fallen";
import { type Later, later } from "./later";
import { type Feature, feature } from "./pages";
import { Shell } from "./Shell";

type Loaded<F extends Feature> = Awaited<ReturnType<(typeof feature)[F]>>;
const page = <F extends Feature>(name: F, pick: (loaded: Loaded<F>) => ComponentType): Later =>
  later(async () => pick((await feature[name]()) as Loaded<F>));

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

/** What stands within the frame, by address. */
const PAGES: [path: string, Page: ComponentType | Later][] = [
  ["", Yard],
  ["today", Yard],
  ["fleet", Yard],
  ["instruments/:tag", page("instrument", (loaded) => loaded.Instrument)],
  ["compare", page("compare", (loaded) => loaded.Compare)],
  ["records/:id", page("records", (loaded) => loaded.RecordPage)],
  ["set-up", page("setup", (loaded) => loaded.NewSetUp)],
  ["set-up/:id", page("setup", (loaded) => loaded.SetUp)],
  ["orientation", page("orientation", (loaded) => loaded.NewOrientation)],
  ["orientation/:id", page("orientation", (loaded) => loaded.OrientationPage)],
  ["angles", page("orientation", (loaded) => loaded.AnglePage)],
  ["forecast", page("budget", (loaded) => loaded.BudgetPage)],
  ["points", page("points", (loaded) => loaded.Points)],
  ["bench", page("bench", (loaded) => loaded.Bench)],
  ["bench/new/:tag", page("checks", (loaded) => loaded.Choose)],
  ["bench/new/:tag/:kind", page("checks", (loaded) => loaded.Begin)],
  ["bench/plan/:tag", page("checks", (loaded) => loaded.PlanPage)],
  ["bench/readiness/new/:tag", page("readiness", (loaded) => loaded.RoundBegin)],
  ["bench/readiness/:id", page("readiness", (loaded) => loaded.Round)],
  ["bench/:id", page("checks", (loaded) => loaded.Entry)],
  ...["bench/table", "orientation/table", "points/table"].map((path): [string, Later] => [
    path,
    page("tables", (loaded) => loaded.TablePage),
  ]),
  ["plan", page("plan", (loaded) => loaded.DuePage)],
  ["plan/calendar", page("plan", (loaded) => loaded.Calendar)],
  ["plan/jobs", page("plan", (loaded) => loaded.Jobs)],
  ["plan/jobs/:id", page("plan", (loaded) => loaded.KitPage)],
  ["plan/service", page("plan", (loaded) => loaded.Service)],
  ["plan/rules", page("plan", (loaded) => loaded.Rules)],
  ["ledger", page("ledger", (loaded) => loaded.Ledger)],
  ["practice", page("practice", (loaded) => loaded.Practice)],
  ["practice/progress", page("practice", (loaded) => loaded.ProgressPage)],
  ["practice/people", page("practice", (loaded) => loaded.PeoplePage)],
  ["practice/runs/:id", page("practice", (loaded) => loaded.RunPage)],
  ["practice/instruments/:lesson", page("practice", (loaded) => loaded.InstrumentPage)],
  ["practice/faults/:lesson", page("practice", (loaded) => loaded.FaultPage)],
  ["practice/mornings/:lesson", page("practice", (loaded) => loaded.MorningPage)],
  ["practice/:lesson", page("practice", (loaded) => loaded.StandPage)],
  ["settings", page("settings", (loaded) => loaded.Settings)],
  ["settings/models", page("settings", (loaded) => loaded.Models)],
  ["settings/limits", page("settings", (loaded) => loaded.Limits)],
  ["settings/safe-keeping", page("settings", (loaded) => loaded.SafeKeeping)],
  ["settings/people", page("people", (loaded) => loaded.People)],
  ["settings/you", page("people", (loaded) => loaded.You)],
  ["people", () => <Navigate to="/settings/people" replace />],
  ["*", Nowhere],
];

const Join = page("people", (loaded) => loaded.Join);

/** The pages of the place an address is in: few of them, so that finding the one takes no time. */
const within = (address: string) =>
  PAGES.filter(([path]) => path === "*" || path.split("/")[0] === address.split("/")[1]);

/** Asks for the script of the page this visit begins with, while who is here is still being asked. */
export function fetchFirst(): void {
  const first = within(location.pathname).find(([path]) => matchPath(`/${path}`, location.pathname))?.[1];
  if (first && "ahead" in first) first.ahead();
}

function Addressed() {
  return (
    <Routes>
      <Route path="/join/:link" element={<Join />} />
      <Route path="/" element={<Shell />}>
        {within(useLocation().pathname).map(([path, Page]) => (
          <Route key={path} path={path} element={<Page />} />
        ))}
      </Route>
    </Routes>
  );
}

export function Pages() {
  return (
    <Fallen>
      <Addressed />
    </Fallen>
  );
}
