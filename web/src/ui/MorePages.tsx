// The rest of a list that comes by pages: a button while there is more.
type Paged = { hasNextPage: boolean; isFetchingNextPage: boolean; fetchNextPage: () => unknown };

export function MorePages({ query, label }: { query: Paged; label: string }) {
  if (!query.hasNextPage) return null;
  return (
    <button
      className="btn justify-self-center"
      disabled={query.isFetchingNextPage}
      onClick={() => void query.fetchNextPage()}
    >
      {query.isFetchingNextPage ? "Loading…" : label}
    </button>
  );
}
