// The stand: go on with a set-up, or begin one: which instrument, over which point, by which way of working.
import { useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { NoSignal, type Way } from "../../api/client";
import { useHere, usePerson } from "../../app/session";
import { ways as waysOf } from "../../core";
import { type SetUpDraft, asDraft, asSetUp, beginSetUp } from "../../sheet/setUp";
import { drafts, keepDraft, onShelfChange } from "../../store/device";
import { PickInstrument } from "../../ui/PickInstrument";
import { Choice, Head } from "../../ui/parts";
import { moment } from "../../ui/words";

const KINDS = ["robotic-total-station", "total-station", "theodolite", "level", "digital-level"];

export function Stand() {
  const open = useOpen();
  const [tag, setTag] = useState("");
  const [mark, setMark] = useState("");
  const [free, setFree] = useState(false);
  const { list, trouble } = useWays(tag);
  const [way, setWay] = useState<string | null>(null);
  const [fine, setFine] = useState<"electronic" | "plate">("electronic");
  const [asked, setAsked] = useState(false);
  const { username } = usePerson();
  const navigate = useNavigate();
  const chosen = way && list.some((one) => one.way === way && !one.cannot) ? way : (list.find((one) => !one.cannot)?.way ?? null);
  const level = list.find((one) => one.way === "no-point" && !one.cannot) !== undefined;
  const lacking = !tag ? "Choose the instrument first." : !level && !free && !mark.trim() ? "Name the point, or say that it is a free station." : null;
  const begin = async (quick: boolean) => {
    setAsked(true);
    if (lacking || !chosen) return;
    const draft = beginSetUp(tag, username, {
      way: chosen,
      mark: level ? {} : free ? { free: true } : { name: mark.trim() },
      ...(chosen === "four-screws" ? { base: { screws: 4 as const } } : {}),
      options: { fine },
      quick,
      level: { by: fine },
    });
    await keepDraft(asDraft(draft));
    await navigate(`/stand/${draft.id}`);
  };
  return (
    <div className="grid gap-4">
      <Head title="Set up over a point" sub="Led through one act at a time, or noted in half a minute." />
      {open.length > 0 && <OpenList drafts={open} />}
      <div className="grid items-start gap-4 desk:grid-cols-2">
        <section className="card grid gap-5 p-5" aria-label="Instrument and point">
          <PickInstrument value={tag} missing={asked && !tag} kinds={KINDS} onChange={setTag} />
          {!level && (
            <div className="grid gap-2">
              <label htmlFor="mark" className="font-[600]">
                Point, as painted at the mark
              </label>
              <input id="mark" className="field !min-h-[64px] font-mono !text-[24px]" value={mark} disabled={free} maxLength={40} onChange={(event) => setMark(event.target.value)} autoCapitalize="characters" autoComplete="off" />
              <label className="flex min-h-[48px] items-center gap-3">
                <input type="checkbox" className="size-6 accent-[var(--color-ink)]" checked={free} onChange={(event) => setFree(event.target.checked)} />
                Free station: no mark below
              </label>
              {asked && tag && lacking && <p className="fault">{lacking}</p>}
            </div>
          )}
          {!level && (
            <Choice
              label="Fine level by"
              value={fine}
              options={[
                { value: "electronic", label: "Electronic level" },
                { value: "plate", label: "Plate bubble" },
              ]}
              onChange={setFine}
            />
          )}
        </section>
        <section className="card grid gap-4 p-5" aria-label="Way of working">
          <h2>How do you work?</h2>
          {!tag && <p className="sub">Choose the instrument; the ways that fit it show here.</p>}
          {trouble && <p className="fault">{trouble}</p>}
          <Ways list={list} chosen={chosen} onTake={setWay} />
          <div className="grid gap-3 tab:grid-cols-2">
            <button className="btn now site" onClick={() => void begin(false)}>
              Lead me through it
            </button>
            <button className="btn site" onClick={() => void begin(true)}>
              I am set up: note it
            </button>
          </div>
        </section>
      </div>
    </div>
  );
}

function Ways({ list, chosen, onTake }: { list: Way[]; chosen: string | null; onTake: (way: string) => void }) {
  return (
    <div role="radiogroup" aria-label="Way of working" className="grid gap-2">
      {list.map((one) => (
        <button
          key={one.way}
          role="radio"
          aria-checked={one.way === chosen}
          disabled={one.cannot !== null}
          data-way={one.way}
          onClick={() => onTake(one.way)}
          className="rounded-md px-4 py-3 text-left shadow-[inset_0_0_0_1.5px_var(--color-ink)] disabled:shadow-[inset_0_0_0_1.5px_var(--color-line)] aria-checked:bg-ink aria-checked:text-card"
        >
          <b className="block font-[660]">{one.title}</b>
          {one.cannot ?? one.good_for}
        </button>
      ))}
    </div>
  );
}

function useWays(tag: string): { list: Way[]; trouble: string | null } {
  const [told, setTold] = useState<{ tag: string; list: Way[]; trouble: string | null }>({ tag: "", list: [], trouble: null });
  useEffect(() => {
    if (!tag) return;
    let here = true;
    waysOf(tag).then(
      (list) => here && setTold({ tag, list, trouble: null }),
      (error: unknown) => here && setTold({ tag, list: [], trouble: error instanceof NoSignal ? "No signal, and the core is not ready on this device yet." : "The ways could not be told. Choose the instrument again." }),
    );
    return () => {
      here = false;
    };
  }, [tag]);
  return told.tag === tag ? told : { list: [], trouble: null };
}

function useOpen(): SetUpDraft[] {
  const { username } = usePerson();
  const [found, setFound] = useState<SetUpDraft[]>([]);
  useEffect(() => {
    let here = true;
    const look = () => void drafts(username).then((all) => here && setFound(all.flatMap((one) => asSetUp(one) ?? [])));
    look();
    const forget = onShelfChange(look);
    return () => {
      here = false;
      forget();
    };
  }, [username]);
  return found;
}

function OpenList({ drafts: open }: { drafts: SetUpDraft[] }) {
  const { session } = useHere();
  return (
    <section className="card" aria-label="Open set-ups">
      <ul className="m-0 list-none divide-y divide-line p-0">
        {open.map((one) => (
          <li key={one.id} className="flex flex-wrap items-center justify-between gap-x-6 gap-y-2 px-5 py-3">
            <div>
              <span className="tag text-[19px]">{one.instrument}</span> <b>{one.document.observations.mark?.name ? `over ${one.document.observations.mark.name}` : "set-up"}</b>
              <span className="sub block">Begun {moment(one.startedAt, session.time_zone)}.</span>
            </div>
            <Link className="btn" to={`/stand/${one.id}`}>
              Go on
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
