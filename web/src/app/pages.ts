// The scripts of the places: each fetched when it is first entered, ahead of that when a link to it is touched or nothing
// else is to be done.
import { firstScreen } from "../hooks/firstScreen";
import { idle } from "../timers";

const bench = () => import("../features/checks/Bench");
/** A sheet, once saved, leads to the bench: its script comes along, so that it is there without signal too. */
const withBench = <T>(page: Promise<T>): Promise<T> => {
  void bench().catch(() => undefined);
  return page;
};
const load = {
  fleet: () => import("../features/fleet"),
  instrument: () => import("../features/instrument"),
  compare: () => import("../features/instrument/Compare"),
  records: () => import("../features/records"),
  setup: () => withBench(import("../features/setup")),
  orientation: () => withBench(import("../features/orientation")),
  budget: () => import("../features/budget"),
  points: () => import("../features/points"),
  bench,
  checks: () => withBench(import("../features/checks")),
  tables: () => withBench(import("../features/tables")),
  plan: () => import("../features/plan"),
  ledger: () => import("../features/ledger"),
  readiness: () => withBench(import("../features/readiness")),
  people: () => import("../features/people"),
  practice: () => import("../features/practice"),
  settings: () => import("../features/settings"),
  /** What the places fetch for themselves when they need it. */
  parts: () =>
    Promise.all([
      import("../features/instrument/Years"),
      import("../features/instrument/Rest"),
      import("../ui/NoteForm"),
      import("./Glossary"),
    ]),
};
export type Feature = keyof typeof load;
export const feature = load;

const OF_PLACE: Record<string, Feature[]> = {
  "/": ["fleet", "instrument", "parts"],
  "/set-up": ["setup"],
  "/bench": ["bench", "checks"],
  "/plan": ["plan"],
  "/ledger": ["ledger", "records"],
  "/practice": ["practice"],
  "/settings": ["settings"],
};

/** Fetched once; what fails is tried again when it is entered. */
export function loadAhead(place: string): void {
  for (const name of OF_PLACE[place] ?? []) void load[name]().catch(() => undefined);
}

/** Every place's script, one after the other, while the page has nothing better to do. */
export async function loadWhenIdle(): Promise<void> {
  await firstScreen;
  for (const name of Object.keys(load) as Feature[]) {
    await idle();
    await load[name]().catch(() => undefined);
  }
}
