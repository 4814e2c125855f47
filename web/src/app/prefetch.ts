// What a person may want to look at without signal, fetched before it is opened: the records they made last, sixty
// instruments, their crew's first, and the history of those their crew holds and of some others. One after the
// other, so that it never stands in the way of what the person does; it ends at the first that is not answered.
import type { QueryClient } from "@tanstack/react-query";
import { fleetQuery, instrumentQuery, myRecordsQuery, pointsQuery, recordQuery, recordsQuery, seriesQuery } from "../api/queries";

const STALE_MS = 300_000;
const MOST_INSTRUMENTS = 60;
const MOST_HISTORIES = 30;

/** Rejects when it ends early. */
export async function prefetch(client: QueryClient, owner: string, crew: string | null): Promise<void> {
  const once = { staleTime: STALE_MS, retry: false } as const;
  const held = (row: { crew: string | null }) => (crew !== null && row.crew === crew ? 0 : 1);
  const { rows: fleet } = await client.fetchQuery({ ...fleetQuery, staleTime: 0, retry: false });
  const rows = [...fleet].sort((a, b) => held(a) - held(b)).slice(0, MOST_INSTRUMENTS);
  await client.fetchQuery({ ...pointsQuery, ...once });
  const mine = await client.fetchQuery({ ...myRecordsQuery(owner), ...once });
  for (const record of mine.records) await client.fetchQuery({ ...recordQuery(record.id), ...once });
  for (const row of rows) await client.fetchQuery({ ...instrumentQuery(row.tag), ...once });
  for (const row of rows.slice(0, MOST_HISTORIES)) {
    await client.fetchQuery({ ...seriesQuery(row.tag, row.latest?.check ?? "two-peg"), ...once });
    await client.fetchInfiniteQuery({ ...recordsQuery(row.tag), ...once });
  }
}
