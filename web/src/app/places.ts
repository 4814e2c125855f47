// Where one can go and what can be done there, with the other names people look for it by. The glossary's names come from
// the core.
export type Place = {
  to: string;
  name: string;
  /** Addresses that belong to it. */
  pages: string[];
};

/** In the order of the rail. A phone's bar holds the first four; the rest is under More. */
export const PLACES: Place[] = [
  { to: "/", name: "Yard", pages: ["/today", "/fleet", "/instruments"] },
  { to: "/set-up", name: "Set-up", pages: ["/set-up", "/orientation", "/forecast", "/angles", "/points"] },
  { to: "/bench", name: "Bench", pages: ["/bench", "/records"] },
  { to: "/plan", name: "Plan", pages: ["/plan"] },
  { to: "/ledger", name: "Ledger", pages: ["/ledger"] },
  { to: "/practice", name: "Practice", pages: ["/practice"] },
  { to: "/settings", name: "Settings", pages: ["/settings"] },
];
export const IN_A_PHONES_BAR = 4;

export const isAt = (place: Place, path: string): boolean =>
  path === place.to || place.pages.some((page) => path.startsWith(page));

export type Findable = {
  name: string;
  to: string;
  group: "Page" | "Action" | "Setting";
  also: string;
  manager?: boolean;
};

export const FINDABLE: Findable[] = [
  { name: "Today", to: "/today", group: "Page", also: "yard crew instruments" },
  { name: "Fleet", to: "/fleet", group: "Page", also: "yard instruments equipment list table compare" },
  {
    name: "Set-up over a point",
    to: "/set-up",
    group: "Action",
    also: "centre level stand tripod guided setup centring",
  },
  { name: "Station orientation", to: "/orientation", group: "Action", also: "backsight free station resection" },
  { name: "Accuracy forecast", to: "/forecast", group: "Action", also: "error budget pre-analysis" },
  { name: "Angles and right angles", to: "/angles", group: "Action", also: "turned angle diagonal square" },
  { name: "Control points", to: "/points", group: "Page", also: "coordinates reference points benchmark import table" },
  {
    name: "Bench: begin a check",
    to: "/bench",
    group: "Action",
    also: "calibration test peg collimation open checks outbox",
  },
  { name: "What is due", to: "/plan", group: "Page", also: "plan schedule overdue checks weeks load" },
  { name: "Calendar", to: "/plan/calendar", group: "Page", also: "plan month due" },
  { name: "Jobs", to: "/plan/jobs", group: "Page", also: "plan project work large job" },
  { name: "Service: away, due, cost", to: "/plan/service", group: "Page", also: "repair workshop certificate money" },
  { name: "Ledger", to: "/ledger", group: "Page", also: "records history export search audit proof" },
  {
    name: "Practice: lessons at a tripod",
    to: "/practice",
    group: "Page",
    also: "train learn teach simulator tripod exercise",
  },
  {
    name: "Progress and sign-off",
    to: "/practice/progress",
    group: "Page",
    also: "trainee mastered habits may set up alone",
  },
  {
    name: "Rules: what is due when",
    to: "/plan/rules",
    group: "Setting",
    also: "interval days events reminder schedule",
  },
  { name: "Password and sessions", to: "/settings/you", group: "Setting", also: "sign in lost tablet" },
  {
    name: "People",
    to: "/settings/people",
    group: "Setting",
    also: "users add disable role crew password rights",
    manager: true,
  },
  {
    name: "Firm: words, units, marks",
    to: "/settings",
    group: "Setting",
    also: "staff or rod decimal mark comma point metres feet gon degrees raw 2c 2i zone name units",
    manager: true,
  },
  {
    name: "Models",
    to: "/settings/models",
    group: "Setting",
    also: "stated accuracy compensator plummet display hints maker facts",
  },
  { name: "Limits", to: "/settings/limits", group: "Setting", also: "tolerance use watch adjust class of work" },
  {
    name: "Safe keeping: backup, export, verify",
    to: "/settings/safe-keeping",
    group: "Setting",
    also: "restore import proof digest chain disk json copy",
    manager: true,
  },
];
