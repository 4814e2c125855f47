/** How far a long act is. */
export function Bar({ done, of, what }: { done: number; of: number; what: string }) {
  return (
    <p className="grid gap-1" role="status">
      <progress className="h-3 w-full accent-[var(--color-ink)]" max={Math.max(1, of)} value={done} />
      <span className="sub">{of ? `${done} of ${of} ${what}` : "Beginning…"}</span>
    </p>
  );
}
