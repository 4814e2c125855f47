// What a person may want to look at without signal, fetched before it is opened: what their crew holds with its
// history, then sixty instruments, the records they made last, and the history of some. One after the other, so that
// it never stands in the way of what the person does; it ends at the first that is not answered.
import type { QueryClient } from "@tanstack/react-query";
import {
  fleetQuery,
  historyQuery,
  instrumentQuery,
  myRecordsQuery,
  pointsQuery,
  recordQuery,
  recordsQuery,
} from "../api/queries";
import type { Schemas } from "../api/client";

const STALE_MS = 300_000;
const MAX_INSTRUMENTS = 60;
const MAX_HISTORIES = 30;
const once = { staleTime: STALE_MS, retry: false } as const;
type Row = Schemas["FleetRow"];

/** Rejects when it ends early. */
export async function prefetch(client: QueryClient, owner: string, crew: string | null): Promise<void> {
  const held = (row: Row) => (crew !== null && row.crew === crew ? 0 : 1);
  const { rows: fleet } = await client.fetchQuery({ ...fleetQuery, staleTime: 0, retry: false });
  const rows = [...fleet].sort((a, b) => held(a) - held(b)).slice(0, MAX_INSTRUMENTS);
  const withHistory = rows.slice(0, MAX_HISTORIES);
  for (const row of withHistory.filter((one) => held(one) === 0)) await fetchHistory(client, row);
  await client.fetchQuery({ ...pointsQuery, ...once });
  // A check of any of them can be begun without signal from here on: that goes before what was recorded.
  for (const row of rows) await client.fetchQuery({ ...instrumentQuery(row.tag), ...once });
  const mine = await client.fetchQuery({ ...myRecordsQuery(owner), ...once });
  for (const record of mine.records) await client.fetchQuery({ ...recordQuery(record.id), ...once });
  // What the crew holds was answered above and is not asked for again.
  for (const row of withHistory) await fetchHistory(client, row);
}

async function fetchHistory(client: QueryClient, row: Row): Promise<void> {
  await client.fetchQuery({ ...instrumentQuery(row.tag), ...once });
  await client.fetchQuery({ ...historyQuery(row.tag), ...once });
  await client.fetchInfiniteQuery({ ...recordsQuery(row.tag), ...once });
}
