// What a change on the server makes old is fetched again: one way, after everything that is saved, sent or undone.
import type { QueryClient, QueryFilters } from "@tanstack/react-query";

/** Who is signed in is another question. */
const SHOWN: QueryFilters = { predicate: (each) => each.queryKey[0] !== "session" };

/** Done when it has come. What is on its way may have been read before the change. Where it is the first answer, asking now
 * would only wait for it; where no page shows it, nothing would be asked and it would pass for new: both are made old once more
 * when they have come. */
export async function fetchAgain(client: QueryClient, what: QueryFilters = SHOWN): Promise<void> {
  const underWay = client.getQueryCache().findAll({ ...what, fetchStatus: "fetching" });
  const joined = underWay.filter((query) => query.state.data === undefined || !query.isActive());
  const came = Promise.allSettled(joined.map((query) => query.promise));
  await client.invalidateQueries(what);
  if (!joined.length) return;
  await came;
  await client.invalidateQueries({ predicate: (query) => joined.includes(query) });
}
