// A held table as the core understands it now, and how a person changes that.
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { knownTablesQuery } from "../../api/queries";
import { type HeldTable, type KnownTable, knownTable } from "../../documents/heldTable";
import { type ColumnLook, type ColumnMap, lookAtTable } from "../../engine";

type Asked = { map: ColumnMap | null; recut: boolean };
export type TableLook = {
  look: ColumnLook | undefined;
  error: unknown;
  /** An answer to what stands on the page is still on its way. */
  busy: boolean;
  /** Whose understanding of such a table was taken over. */
  known: KnownTable | null;
  set: (map: ColumnMap) => void;
  /** Cut another way: its columns are suggested again. */
  recut: (map: ColumnMap) => void;
  forget: () => void;
};

export function useLook(held: HeldTable & { number: number }): TableLook {
  const [asked, setAsked] = useState<Asked | null>(null);
  const firm = useQuery({ ...knownTablesQuery, retry: false });
  const first = useQuery({
    queryKey: ["look", held.number],
    queryFn: () => lookAtTable(held.kind, held.text, null),
    retry: false,
    gcTime: 0,
  });
  const headings = first.data?.file_columns.map((column) => column.heading) ?? [];
  const known = first.data && !firm.isPending ? knownTable(held.kind, headings, firm.data ?? []) : null;
  const query: Asked = asked ?? { map: known?.column_map ?? null, recut: false };
  // What the core suggests was answered with the first look.
  const suggested = query.map === null;
  const now = useQuery({
    queryKey: ["look", held.number, query],
    queryFn: () => lookAtTable(held.kind, held.text, query.map, query.recut),
    enabled: first.isSuccess && !firm.isPending && !suggested,
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 0,
  });
  const look = suggested ? first.data : now.data;
  return {
    look: firm.isPending ? undefined : look && withChoices(look, asked),
    error: first.error ?? now.error,
    busy: now.isFetching,
    known: asked ? null : known,
    set: (map) => setAsked({ map, recut: false }),
    recut: (map) => setAsked({ map, recut: true }),
    forget: () => setAsked({ map: null, recut: false }),
  };
}

/** What a person chose stands there at once: the next choice is made on top of it, however long the answer takes. */
function withChoices(look: ColumnLook, asked: Asked | null): ColumnLook {
  if (!asked?.map || asked.recut) return look;
  const words = Object.fromEntries(
    [...new Set([...Object.keys(look.column_map.words), ...Object.keys(asked.map.words)])].map((field) => [
      field,
      { ...look.column_map.words[field], ...asked.map?.words[field] },
    ]),
  );
  return { ...look, column_map: { ...asked.map, words } };
}
