// The server's frame: the rail, the page, what waits for signal, shortcuts, sign-in over the page when a session ends.
import { useQueryClient } from "@tanstack/react-query";
import { Suspense, useEffect, useSyncExternalStore } from "react";
import { Link, Outlet } from "react-router";
import { fetchAgain } from "../api/again";
import { storedAt, onStoredAt } from "../api/client";
import { clockWords } from "../device/clock";
import { Dialog, Waiting } from "../ui/parts";
import { KindsProvider } from "../hooks/useKinds";
import { useNarrow } from "../hooks/useNarrow";
import { useTyping } from "../hooks/useTyping";
import { moment } from "../ui/words";
import { Find } from "./Find";
import { Palette } from "./Palette";
import { Rail } from "./Rail";
import { KeepingStrip } from "./KeepingStrip";
import { RecheckStrip } from "./RecheckStrip";
import { SignIn } from "./SignIn";
import { loadWhenIdle } from "./pages";
import { useOutbox } from "./outbox";
import { useHere } from "./session";
import { UpdateStrip } from "./UpdateStrip";

export function Shell() {
  const { person, session } = useHere();
  const typing = useTyping() && matchMedia("(pointer: coarse)").matches;
  const narrow = useNarrow();
  useEffect(() => void loadWhenIdle(), []);
  if (!session.person) return <SignIn />;
  return (
    <KindsProvider>
      <div className="shell tab:grid tab:grid-cols-[96px_1fr] min-h-dvh" data-typing={typing || undefined}>
        <Rail narrow={narrow} hidden={typing && narrow} />
        <div className={`min-w-0 pointer-coarse:pb-[80px] max-tab:pb-[76px]`}>
          <OutboxStrip />
          <UpdateStrip />
          <RecheckStrip />
          <KeepingStrip />
          <main className="mx-auto max-w-[1320px] px-4 py-4 tab:px-7 tab:py-5 desk:py-3 desk:pl-9">
            <Suspense fallback={<Waiting what="Loading…" />}>
              <Outlet />
            </Suspense>
          </main>
        </div>
        <Find />
        <Palette />
        <Dialog title="Sign in again" open={person === null} onClose={() => undefined}>
          <SignIn over />
        </Dialog>
      </div>
    </KindsProvider>
  );
}

/** When what is shown comes from this device, as of when. */
function useAsOf(): string | null {
  return useSyncExternalStore(onStoredAt, storedAt);
}

function OutboxStrip() {
  const { waiting, refused, online, items } = useOutbox();
  const held = items.find((item) => item.state === "waiting" && item.problem)?.problem?.title;
  const { session } = useHere();
  const asOf = useAsOf();
  const clock = clockWords();
  if (online && !waiting && !refused && !asOf && !clock) return null;
  return (
    <div
      role="status"
      className="no-print flex flex-wrap items-center gap-x-4 border-b border-line bg-card px-4 py-1 tab:px-9 font-semibold"
    >
      {!online && <span>Offline. Your readings are stored on this device.</span>}
      {asOf && <span className="font-normal">What you see is as of {moment(asOf, session.time_zone)}.</span>}
      {clock && (
        <span className="text-coral">This device's clock is {clock}: set it; recorded times depend on it.</span>
      )}
      {waiting > 0 && <span>{waiting === 1 ? "1 item waiting" : `${waiting} items waiting`} to be sent.</span>}
      {held && <span className="text-coral">{held}</span>}
      {refused > 0 && (
        <span className="text-coral">{refused === 1 ? "One thing was" : `${refused} things were`} rejected.</span>
      )}
      {(waiting > 0 || refused > 0) && (
        <Link className="link" to="/bench">
          Look
        </Link>
      )}
    </div>
  );
}

/** Refetch everything after something reached the server. */
export function useRefresh(): () => void {
  const client = useQueryClient();
  return () => void fetchAgain(client);
}
