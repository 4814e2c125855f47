// The server's frame: the rail, the page, what waits for signal, shortcuts, sign-in over the page when a session ends.
import { useQueryClient } from "@tanstack/react-query";
import { CircleHelp, Sun } from "lucide-react";
import { useEffect, useState, useSyncExternalStore } from "react";
import { Link, Outlet, useLocation, useNavigate } from "react-router";
import { NoSignal, storedAt, onStoredAt } from "../api/client";
import { clockWords } from "../device/clock";
import { Dialog } from "../ui/parts";
import { useTyping } from "../hooks/useTyping";
import { moment } from "../ui/words";
import { openGlossary } from "../ui/Terms";
import { Find } from "./Find";
import { Mark } from "./Mark";
import { SignIn } from "./SignIn";
import { useNotify } from "./notices";
import { useOutbox } from "./outbox";
import { useHere } from "./session";
import { UpdateStrip } from "./UpdateStrip";

const PLACES = [
  { to: "/", name: "Yard", pages: [] },
  { to: "/set-up", name: "Set-up", pages: ["/set-up", "/orientation", "/forecast", "/angles", "/points"] },
  { to: "/bench", name: "Bench", pages: ["/bench"] },
];

export function Shell() {
  const { person, session } = useHere();
  const typing = useTyping() && matchMedia("(pointer: coarse)").matches;
  if (!session.person) return <SignIn />;
  return (
    <div className="shell tab:grid tab:grid-cols-[96px_1fr] min-h-dvh" data-typing={typing || undefined}>
      <Rail hidden={typing && window.innerWidth < 760} />
      <div className={`min-w-0 pointer-coarse:pb-[80px] max-tab:pb-[72px]`}>
        <OutboxStrip />
        <UpdateStrip />
        <main className="mx-auto max-w-[1320px] px-4 py-4 tab:px-7 tab:py-5 desk:pl-9">
          <Outlet />
        </main>
      </div>
      <Find />
      <Dialog title="Sign in again" open={person === null} onClose={() => undefined}>
        <SignIn over />
      </Dialog>
    </div>
  );
}

function Rail({ hidden }: { hidden: boolean }) {
  const at = useLocation().pathname;
  const { person, signOut } = useHere();
  const notify = useNotify();
  const navigate = useNavigate();
  const change = () =>
    signOut().then(() => navigate("/")).catch((error: unknown) => notify({ text: error instanceof NoSignal ? "Switching user needs a connection: without it nobody else can sign in." : "Signing out did not work. Try again." }));
  if (hidden) return null;
  return (
    <nav aria-label="Places" className="rail z-30 max-tab:fixed max-tab:inset-x-0 max-tab:bottom-0 max-tab:flex tab:sticky tab:top-0 tab:flex tab:h-dvh tab:flex-col">
      <Link to="/" aria-label="Naveta, to the yard" className="mx-auto mb-5 mt-4 text-stone max-tab:hidden">
        <Mark />
      </Link>
      {PLACES.map((place) => (
        <Link key={place.to} to={place.to} aria-current={at === place.to || place.pages.some((page) => at.startsWith(page)) ? "page" : undefined} className="rail-place">
          {place.name}
          <i />
        </Link>
      ))}
      <div className="tab:mt-auto tab:mb-3 tab:grid tab:justify-items-start tab:px-[14px] text-[14px] leading-[1.3] max-tab:flex max-tab:flex-[2] max-tab:items-center max-tab:justify-end max-tab:gap-1 max-tab:px-2">
        <LightSwitch />
        <button className="grid min-h-[44px] min-w-[44px] place-items-center tab:place-items-start tab:content-center " onClick={() => openGlossary()} aria-label="Find and look up">
          <CircleHelp size={22} aria-hidden="true" />
        </button>
        <span className="text-[#d5dee4] max-tab:flex max-tab:items-center max-tab:gap-3">
          <Link className="block min-h-[44px] content-center underline underline-offset-2 text-[#d5dee4]" to="/people" aria-label={`${person?.name ?? ""}: password and sessions`}>
            {person?.name.split(" ")[0]}
          </Link>
          {person?.crew && <span className="block max-tab:hidden">{person.crew} crew</span>}
          <button className="block min-h-[44px] text-left whitespace-nowrap underline underline-offset-2 text-[#d5dee4]" onClick={() => void change()}>
            Switch user
          </button>
        </span>
      </div>
    </nav>
  );
}

function LightSwitch() {
  const [bright, setBright] = useState(() => localStorage.getItem("light") === "bright");
  useEffect(() => {
    document.documentElement.dataset.light = bright ? "bright" : "normal";
    localStorage.setItem("light", bright ? "bright" : "normal");
  }, [bright]);
  return (
    <button className="grid min-h-[44px] min-w-[44px] place-items-center tab:place-items-start tab:content-center text-[#d5dee4]" aria-pressed={bright} aria-label="Bright light" onClick={() => setBright(!bright)}>
      <Sun size={22} aria-hidden="true" strokeWidth={bright ? 3 : 1.8} />
    </button>
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
    <div role="status" className="no-print flex flex-wrap items-center gap-x-4 border-b border-line bg-card px-4 py-1 tab:px-9 font-[560]">
      {!online && <span>Offline. Your readings are stored on this device.</span>}
      {asOf && <span className="font-[440]">What you see is as of {moment(asOf, session.time_zone)}.</span>}
      {clock && <span className="text-coral">This device's clock is {clock}: set it; recorded times depend on it.</span>}
      {waiting > 0 && <span>{waiting === 1 ? "1 item waiting" : `${waiting} items waiting`} to be sent.</span>}
      {held && <span className="text-coral">{held}</span>}
      {refused > 0 && <span className="text-coral">{refused === 1 ? "One thing was" : `${refused} things were`} rejected.</span>}
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
  return () => void client.invalidateQueries({ predicate: (each) => each.queryKey[0] !== "session" });
}
