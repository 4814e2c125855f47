// Who is here. The session outlives a lost signal on this device; it ends only by signing out.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, createContext, useCallback, useContext, useEffect, useMemo, useState } from "react";
import { type Session, api, carryToken, data, keptAt, whenSignedOut } from "../api/client";
import { measureClock } from "../store/clock";
import { settle } from "../store/device";
import { holdKeys } from "../store/seal";

export type Person = NonNullable<Session["person"]>;
type Here = {
  session: Session;
  /** The signed-in person; a missing one is asked for over the page. */
  person: Person | null;
  may: (act: string) => { allowed: boolean; text: string };
  signIn: (username: string, password?: string) => Promise<void>;
  signOut: () => Promise<void>;
  /** The house's clock when the session was last asked for: what plots and ages are told from. */
  now: Date;
};

const HereContext = createContext<Here | null>(null);

export function useHere(): Here {
  const here = useContext(HereContext);
  if (!here) throw new Error("useHere wants a <SessionProvider> around it");
  return here;
}

/** Whose page this is; also while a session that ended is being renewed over it. */
export function usePerson(): Person {
  const { person } = useHere().session;
  if (!person) throw new Error("usePerson is for pages behind the sign-in");
  return person;
}

export function SessionProvider({ children, waiting, failed }: { children: ReactNode; waiting: ReactNode; failed: (again: () => void) => ReactNode }) {
  const client = useQueryClient();
  const query = useQuery({ queryKey: ["session"], queryFn: () => data(api.GET("/api/session")), staleTime: Infinity, retry: 1 });
  const [ended, setEnded] = useState(false);
  const session = query.data;
  if (session) {
    carryToken(session.csrf_token);
    holdKeys(session.device_keys);
  }
  useEffect(() => {
    if (session && keptAt() === null) measureClock(new Date(session.now), new Date(query.dataUpdatedAt));
  }, [session, query.dataUpdatedAt]);
  useEffect(() => whenSignedOut(() => setEnded(true)), []);

  const signIn = useCallback(
    async (username: string, password?: string) => {
      const answer = await data(api.POST("/api/session", { body: { username, password: password ?? null } }));
      carryToken(answer.csrf_token);
      setEnded(false);
      client.setQueryData(["session"], answer);
      await client.invalidateQueries({ predicate: (one) => one.queryKey[0] !== "session" });
    },
    [client],
  );
  const signOut = useCallback(async () => {
    await settle();
    await api.DELETE("/api/session");
    holdKeys(null);
    if ("caches" in window) await caches.delete("naveta-data");
    client.removeQueries({ predicate: (one) => one.queryKey[0] !== "session" });
    await client.refetchQueries({ queryKey: ["session"] });
  }, [client]);

  const here = useMemo<Here | null>(() => {
    if (!session) return null;
    const may = (act: string) => session.rights[act] ?? { allowed: false, text: "Sign in first." };
    const now = new Date(session.now);
    return { session, person: ended ? null : (session.person ?? null), may, signIn, signOut, now };
  }, [session, ended, signIn, signOut]);

  if (query.isError && !session) return <>{failed(() => void query.refetch())}</>;
  if (!here) return <>{waiting}</>;
  return <HereContext.Provider value={here}>{children}</HereContext.Provider>;
}
