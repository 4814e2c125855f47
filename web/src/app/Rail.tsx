// Where one is and where one can go: a rail beside wide pages, a bar of four and More at the foot of a phone.
import { Search } from "lucide-react";
import { Suspense, lazy, useState } from "react";
import { Link, useLocation } from "react-router";
import { Dialog } from "../ui/parts";
import { IN_A_PHONES_BAR, PLACES, isAt } from "./places";
import { Mark } from "./Mark";
import { loadAhead } from "./pages";
import { openPalette } from "./palette";
import { WhoIsHere, usePersonActions } from "./PersonMenu";

const PersonButton = lazy(() => import("./PersonButton"));

export function Rail({ narrow, hidden }: { narrow: boolean; hidden: boolean }) {
  if (hidden) return null;
  return narrow ? <Bar /> : <Staff />;
}

function PlaceLink({ place, onGo }: { place: (typeof PLACES)[number]; onGo?: () => void }) {
  const at = useLocation().pathname;
  return (
    <Link
      to={place.to}
      aria-current={isAt(place, at) ? "page" : undefined}
      className="rail-place"
      onPointerEnter={() => loadAhead(place.to)}
      onFocus={() => loadAhead(place.to)}
      {...(onGo ? { onClick: onGo } : {})}
    >
      {place.name}
      <i />
    </Link>
  );
}

function Staff() {
  return (
    <nav aria-label="Places" className="rail sticky top-0 z-30 flex h-dvh flex-col">
      <Link to="/" aria-label="Naveta, to the yard" className="mx-auto mb-4 mt-4 text-stone">
        <Mark />
      </Link>
      {PLACES.map((place) => (
        <PlaceLink key={place.to} place={place} />
      ))}
      <div className="mb-2 mt-auto grid">
        <button
          className="grid min-h-[56px] w-full justify-items-center gap-1 py-1 text-[14px] leading-tight text-[#d5dee4]"
          onClick={() => openPalette()}
        >
          <Search size={22} aria-hidden="true" />
          Find
        </button>
        <Suspense fallback={<span className="min-h-[56px]" />}>
          <PersonButton />
        </Suspense>
      </div>
    </nav>
  );
}

/** At most 64 px high, and away while a keypad is open. */
function Bar() {
  const [more, setMore] = useState(false);
  return (
    <nav aria-label="Places" className="rail fixed inset-x-0 bottom-0 z-30 flex h-[60px]">
      {PLACES.slice(0, IN_A_PHONES_BAR).map((place) => (
        <PlaceLink key={place.to} place={place} />
      ))}
      <button className="rail-place" aria-expanded={more} onClick={() => setMore(true)}>
        More
      </button>
      <Dialog title="More" open={more} onClose={() => setMore(false)}>
        <More onDone={() => setMore(false)} />
      </Dialog>
    </nav>
  );
}

function More({ onDone }: { onDone: () => void }) {
  const actions = [
    { name: "Find anything", icon: <Search size={20} aria-hidden="true" />, action: openPalette },
    ...usePersonActions(),
  ];
  return (
    <div className="grid gap-3">
      {PLACES.slice(IN_A_PHONES_BAR).map((place) => (
        <Link key={place.to} className="btn site" to={place.to} onClick={onDone}>
          {place.name}
        </Link>
      ))}
      <WhoIsHere />
      {actions.map(({ name, icon, action }) => (
        <button
          key={name}
          className="btn !justify-start"
          onClick={() => {
            onDone();
            action();
          }}
        >
          {icon}
          {name}
        </button>
      ))}
    </div>
  );
}
