import { useQuery } from "@tanstack/react-query";
import { type ReactNode, createContext, useContext } from "react";
import type { Kind } from "../api/client";
import { kindsQuery } from "../api/queries";

const KindsContext = createContext<Kind[]>([]);
const NONE: Kind[] = [];

/** Asked for once for the whole page, not by every row that names a kind. */
export function KindsProvider({ children }: { children: ReactNode }) {
  return <KindsContext.Provider value={useQuery(kindsQuery).data ?? NONE}>{children}</KindsContext.Provider>;
}

/** Every kind of check, as far as it is here. */
export function useKinds(): Kind[] {
  return useContext(KindsContext);
}

/** What the core says of a kind of check; undefined until it is here. */
export function useKind(name: string | undefined): Kind | undefined {
  return useKinds().find((kind) => kind.kind === name);
}
