import { useQuery } from "@tanstack/react-query";
import type { Kind } from "../api/client";
import { kindsQuery } from "../api/queries";

/** What the core says of a kind of check; undefined until it is here. */
export function useKind(name: string | undefined): Kind | undefined {
  const kinds = useQuery(kindsQuery);
  return kinds.data?.find((one) => one.kind === name);
}
