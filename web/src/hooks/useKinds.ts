import { useQuery } from "@tanstack/react-query";
import type { Kind } from "../api/client";
import { kindsQuery } from "../api/queries";

/** Every kind of check, as far as it is here. */
export function useKinds(): Kind[] {
  return useQuery(kindsQuery).data ?? [];
}

/** What the core says of a kind of check; undefined until it is here. */
export function useKind(name: string | undefined): Kind | undefined {
  return useKinds().find((useKind) => useKind.kind === name);
}
