// Question of the server: keys and fetchers together, so that a key is written once.
import { infiniteQueryOptions, keepPreviousData, queryOptions } from "@tanstack/react-query";
import { type Schemas, api, data, send } from "./client";
import { fetchFleet } from "../device/fleet";

/** The whole fleet, what needs attention first. */
export const fleetQuery = queryOptions({ queryKey: ["fleet"], queryFn: () => data(api.GET("/api/fleet")) });

export const instrumentQuery = (tag: string) =>
  queryOptions({
    queryKey: ["instrument", tag],
    queryFn: () => data(api.GET("/api/instruments/{tag}", { params: { path: { tag } } })),
  });

export const seriesQuery = (tag: string, of: string) =>
  queryOptions({
    queryKey: ["series", tag, of],
    queryFn: () => data(api.GET("/api/instruments/{tag}/series", { params: { path: { tag }, query: { of } } })),
  });

/** All series of an instrument, by kind of check. */
export const historyQuery = (tag: string) =>
  queryOptions({
    queryKey: ["history", tag],
    queryFn: () => data(api.GET("/api/instruments/{tag}/history", { params: { path: { tag } } })),
  });

export const standInsQuery = (tag: string) =>
  queryOptions({
    queryKey: ["stand-ins", tag],
    queryFn: () => data(api.GET("/api/instruments/{tag}/stand-ins", { params: { path: { tag } } })),
  });

export const recordsQuery = (tag: string) =>
  infiniteQueryOptions({
    queryKey: ["records", tag],
    queryFn: ({ pageParam }) =>
      data(api.GET("/api/records", { params: { query: { instrument: tag, cursor: pageParam, limit: 25 } } })),
    initialPageParam: null as string | null,
    getNextPageParam: (last) => last.next,
  });

/** Every record that answers, page by page. */
export const ledgerQuery = (filters: Record<string, string | undefined>) =>
  infiniteQueryOptions({
    queryKey: ["ledger", filters],
    queryFn: ({ pageParam }) =>
      data(api.GET("/api/ledger", { params: { query: { ...filters, cursor: pageParam, limit: 100 } } })),
    initialPageParam: null as string | null,
    getNextPageParam: (last) => last.next,
  });

/** A record computed again with today's core. */
export const recomputedQuery = (uuid: string) =>
  queryOptions({
    queryKey: ["recomputed", uuid],
    queryFn: () => data(api.GET("/api/records/{uuid}/recomputed", { params: { path: { uuid } } })),
    enabled: false,
  });

/** The latest records of an instrument, for finding one by name. */
export const recordsOfQuery = (tag: string) =>
  queryOptions({
    queryKey: ["records-of", tag],
    queryFn: () => data(api.GET("/api/records", { params: { query: { instrument: tag, limit: 25 } } })),
    staleTime: 60_000,
  });

/** The checks a person made or saved last. */
export const myRecordsQuery = (username: string) =>
  queryOptions({
    queryKey: ["records-by", username],
    queryFn: () => data(api.GET("/api/records", { params: { query: { by: username, category: "check", limit: 12 } } })),
  });

export const recordQuery = (uuid: string) =>
  queryOptions({
    queryKey: ["record", uuid],
    queryFn: () => data(api.GET("/api/records/{uuid}", { params: { path: { uuid } } })),
  });

/** What was sighted from a set-up. */
export const orientationsQuery = (uuid: string) =>
  queryOptions({
    queryKey: ["orientations", uuid],
    queryFn: () => data(api.GET("/api/records/{uuid}/orientations", { params: { path: { uuid } } })),
  });

export const impactReviewQuery = (uuid: string) =>
  queryOptions({
    queryKey: ["impact-review", uuid],
    queryFn: () => data(api.GET("/api/records/{uuid}/impact-review", { params: { path: { uuid } } })),
  });

/** Every control point of the firm. */
export const pointsQuery = queryOptions({
  queryKey: ["points"],
  queryFn: () => data(api.GET("/api/points", { params: { query: { q: "" } } })),
});

/** What is due now or within so many days; of one crew's instruments, if one is named. */
/** What is due until a day, page by page; of a crew, of one kind of check. */
export const dueQuery = (days: number, crew: string, check = "") =>
  infiniteQueryOptions({
    queryKey: ["due", days, crew, check],
    queryFn: ({ pageParam }) =>
      data(api.GET("/api/due", { params: { query: { days, crew, check, cursor: pageParam, limit: 100 } } })),
    initialPageParam: null as string | null,
    getNextPageParam: (last) => last.next,
  });

/** What comes due on each day of a month. */
export const dueMonthQuery = (month: string) =>
  queryOptions({
    queryKey: ["due", "month", month],
    queryFn: () => data(api.GET("/api/due/month", { params: { query: { month } } })),
    placeholderData: keepPreviousData,
  });

/** Jobs that are not over. */
export const jobsQuery = queryOptions({ queryKey: ["jobs"], queryFn: () => data(api.GET("/api/jobs")) });

/** Classes of jobs, with the needs each begins with. */
export const jobClassesQuery = queryOptions({
  queryKey: ["job-classes"],
  queryFn: () => data(api.GET("/api/job-classes")),
  staleTime: Infinity,
});

/** What is fit for a job, and the kit with the shortest checks. */
export const jobKitQuery = (pk: number) =>
  queryOptions({
    queryKey: ["jobs", pk, "kit"],
    queryFn: () => data(api.GET("/api/jobs/{pk}/kit", { params: { path: { pk } } })),
  });

/** What is due within so many days, spread over quiet mornings. */
export const levelledQuery = (days: number, crew: string) =>
  queryOptions({
    queryKey: ["due", "levelled", days, crew],
    queryFn: () => data(api.GET("/api/due/levelled", { params: { query: { days, crew } } })),
  });

/** Service by year and model, and what is away. */
export const serviceCostsQuery = queryOptions({
  queryKey: ["service-costs"],
  queryFn: () => data(api.GET("/api/service-costs")),
});

/** One's own week as it would be sent. */
export const digestQuery = queryOptions({ queryKey: ["digest"], queryFn: () => data(api.GET("/api/digest")) });

/** Sheets of labels there are. */
export const labelSizesQuery = queryOptions({
  queryKey: ["label-sizes"],
  queryFn: () => data(api.GET("/api/labels/sizes")),
  staleTime: Infinity,
});

/** Calendar addresses in use. */
export const calendarLinksQuery = queryOptions({
  queryKey: ["calendar-links"],
  queryFn: () => data(api.GET("/api/calendar-links")),
});

/** Rules of what is due when. */
export const rulesQuery = queryOptions({ queryKey: ["due-rules"], queryFn: () => data(api.GET("/api/due-rules")) });

/** Backups and exports, the age of the last backup, warnings. */
export const safeKeepingQuery = queryOptions({
  queryKey: ["safe-keeping"],
  queryFn: () => data(api.GET("/api/safe-keeping")),
  staleTime: 30_000,
});

/** The ends of all chains in one line. */
export const chainEndsQuery = queryOptions({
  queryKey: ["chain-ends"],
  queryFn: () => data(api.GET("/api/chain-ends")),
});

/** The settings of the firm. */
export const firmQuery = queryOptions({ queryKey: ["firm"], queryFn: () => data(api.GET("/api/organisation")) });

/** Settings changed, newest first; `about` one thing or a sort of things. */
export const changesQuery = (about: string) =>
  queryOptions({
    queryKey: ["changes", about],
    queryFn: () => data(api.GET("/api/changes", { params: { query: { about } } })),
  });

/** Every limit the firm has set. */
export const limitsQuery = queryOptions({ queryKey: ["limits"], queryFn: () => data(api.GET("/api/limits")) });

/** Classes of work limits are set for. */
export const classesQuery = queryOptions({
  queryKey: ["limits", "classes"],
  queryFn: () => data(api.GET("/api/limits/classes")),
  staleTime: 60_000,
});

export const kindsQuery = queryOptions({
  queryKey: ["kinds"],
  queryFn: () => data(api.GET("/api/kinds")),
  staleTime: 3_600_000,
});

export const modelsQuery = queryOptions({ queryKey: ["models"], queryFn: () => data(api.GET("/api/models")) });

/** Steps a model may have a hint for. */
export const hintsQuery = queryOptions({
  queryKey: ["hints"],
  queryFn: () => data(api.GET("/api/models/hints")),
  staleTime: Infinity,
});

/** What this device keeps to calculate without signal. */
export const deviceQuery = queryOptions({ queryKey: ["device"], queryFn: fetchFleet, staleTime: 60_000 });

/** Everybody who is here, with their crews. */
export const peopleNamesQuery = queryOptions({
  queryKey: ["people"],
  queryFn: () => data(api.GET("/api/people")),
  staleTime: 60_000,
});

/** Everybody of the firm, leavers too: the manager's list. */
export const peopleQuery = queryOptions({ queryKey: ["everybody"], queryFn: () => data(api.GET("/api/people/all")) });

/** How somebody comes along at practice; empty: oneself. */
export const practiceProgressQuery = (person: string) =>
  queryOptions({
    queryKey: ["practice", "progress", person],
    queryFn: () => data(api.GET("/api/practice/progress", { params: { query: { person } } })),
  });

/** Everybody who practises. */
export const practisingQuery = queryOptions({
  queryKey: ["practice", "people"],
  queryFn: () => data(api.GET("/api/practice/people")),
});

export type PracticeRun = {
  id: string;
  name: string;
  username: string;
  lesson: string;
  seed: number;
  at: string;
  advised: boolean;
  gestures: Schemas["Gesture"][];
  judged: Schemas["Judged"];
};

/** A finished lesson with its gestures. */
export const practiceRunQuery = (id: string) =>
  queryOptions({
    queryKey: ["practice", "run", id],
    queryFn: () => send<PracticeRun>("GET", `/api/practice/runs/${id}`, undefined),
  });

/** Tables of the firm's own that were read before: which column is what. */
export const knownTablesQuery = queryOptions({
  queryKey: ["known-tables"],
  queryFn: () => data(api.GET("/api/tables/known")),
});
