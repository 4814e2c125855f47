// What a change on the server makes old is fetched again: one way, after everything that is saved, sent or undone.
import type { QueryClient, QueryFilters } from "@tanstack/react-query";

/** Who is signed in is asked for by itself. */
const SHOWN: QueryFilters = { predicate: (each) => each.queryKey[0] !== "session" };

/** Done when it has come. What was on its way for the first time may have been read before the change, and asking for it
 * now would only wait for that same answer: it is asked for once more when it has come. */
export async function fetchAgain(client: QueryClient, what: QueryFilters = SHOWN): Promise<void> {
  const first = client.getQueryCache().findAll({ ...what, fetchStatus: "fetching" }).filter((query) => query.state.data === undefined);
  const came = Promise.allSettled(first.map((query) => query.promise));
  await client.invalidateQueries(what);
  if (!first.length) return;
  await came;
  await client.invalidateQueries({ predicate: (query) => first.includes(query) });
}
