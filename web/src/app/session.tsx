// Who is here. The session outlives a lost signal on this device; it ends only by signing out.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import {
  type ReactNode,
  createContext,
  useCallback,
  useContext,
  useDeferredValue,
  useEffect,
  useMemo,
  useState,
} from "react";
import { fetchAgain } from "../api/again";
import { type Session, api, sessionBegan, carryToken, data, storedAt, whenSignedOut } from "../api/client";
import { setWriting } from "../api/writing";
import { setFirmUnits } from "../ui/units";
import { setZone } from "../ui/words";
import { measureClock } from "../device/clock";
import { flush } from "../device/device";
import { forgetFleet } from "../device/fleet";
import { holdKeys } from "../device/seal";

export type Person = NonNullable<Session["person"]>;
type Here = {
  session: Session;
  /** The signed-in person; a missing one is asked for over the page. */
  person: Person | null;
  may: (right: string) => { allowed: boolean; text: string };
  signIn: (username: string, password?: string) => Promise<void>;
  signOut: () => Promise<void>;
  /** The server's clock when the session was last asked for: what plots and ages are given from. */
  now: Date;
};

const LEFT = "signed-out";
/** The other tabs of this device. */
const others = "BroadcastChannel" in globalThis ? new BroadcastChannel("naveta-session") : null;

/** Answers kept on this device for when there is no signal. */
async function forgetAnswers(): Promise<void> {
  if ("caches" in globalThis) await caches.delete("naveta-data");
  await forgetFleet();
}

const HereContext = createContext<Here | null>(null);

export function useHere(): Here {
  const here = useContext(HereContext);
  if (!here) throw new Error("useHere needs a <SessionProvider> around it");
  return here;
}

/** Whose page this is; also while a session that ended is being renewed over it. */
export function usePerson(): Person {
  const { person } = useHere().session;
  if (!person) throw new Error("usePerson is for pages behind the sign-in");
  return person;
}

/** Notices when the session ends: on the server, or in another tab of this device. */
function useSessionEnd(setEnded: (ended: boolean) => void, leaving: boolean): void {
  useEffect(
    () =>
      whenSignedOut(() => {
        // While signing out, refused requests of the page do not mean that the session has expired.
        if (leaving) return;
        setEnded(true);
        // What was stored for whoever was here is not for whoever comes next.
        void forgetAnswers();
      }),
    [setEnded, leaving],
  );
  useEffect(() => {
    const left = (event: MessageEvent) => {
      // Signed out in another tab of this device: this one shows nothing of theirs any more.
      if (event.data === LEFT) location.assign("/");
    };
    others?.addEventListener("message", left);
    return () => others?.removeEventListener("message", left);
  }, []);
}

export function SessionProvider({
  children,
  waiting,
  failed,
}: {
  children: ReactNode;
  waiting: ReactNode;
  failed: (again: () => void) => ReactNode;
}) {
  const client = useQueryClient();
  const query = useQuery({
    queryKey: ["session"],
    queryFn: () => data(api.GET("/api/session")),
    staleTime: Infinity,
    retry: 1,
  });
  const [ended, setEnded] = useState(false);
  // The last session with somebody in it: one that ended away is renewed over the page, which stays as it is.
  const [held, setHeld] = useState<Session | null>(null);
  if (query.data?.person && query.data !== held) setHeld(query.data);
  const [leaving, setLeaving] = useState(false);
  const session = query.data?.person || leaving ? query.data : (held ?? query.data);
  const gone = ended || session !== query.data;
  if (query.data) carryToken(query.data.csrf_token);
  if (session) {
    holdKeys(session.device_keys);
    setWriting(session.writing);
    setZone(session.time_zone, session.zone_offsets);
    setFirmUnits(session.writing);
  }
  useEffect(() => {
    if (session && storedAt() === null) measureClock(new Date(session.now), new Date(query.dataUpdatedAt));
  }, [session, query.dataUpdatedAt]);
  useSessionEnd(setEnded, leaving);

  const signIn = useCallback(
    async (username: string, password?: string) => {
      const answer = await data(api.POST("/api/session", { body: { username, password: password ?? null } }));
      carryToken(answer.csrf_token);
      sessionBegan();
      setEnded(false);
      client.setQueryData(["session"], answer);
      await fetchAgain(client);
    },
    [client],
  );
  const signOut = useCallback(async () => {
    await flush();
    setLeaving(true);
    try {
      await api.DELETE("/api/session");
      holdKeys(null);
      await forgetAnswers();
      others?.postMessage(LEFT);
      client.removeQueries({ predicate: (each) => each.queryKey[0] !== "session" });
      await client.refetchQueries({ queryKey: ["session"] });
      setHeld(null);
    } finally {
      setLeaving(false);
    }
  }, [client]);

  const here = useMemo<Here | null>(() => {
    if (!session) return null;
    const may = (right: string) => session.rights[right] ?? { allowed: false, text: "Sign in first." };
    const now = new Date(session.now);
    return { session, person: gone ? null : (session.person ?? null), may, signIn, signOut, now };
  }, [session, gone, signIn, signOut]);

  // The first page is drawn in slices, so that a slow device still answers a touch meanwhile.
  const ready = useDeferredValue(here !== null);

  if (query.isError && !session) return <>{failed(() => void query.refetch())}</>;
  if (!here || !ready) return <>{waiting}</>;
  return <HereContext.Provider value={here}>{children}</HereContext.Provider>;
}
