// A set-up as it would be begun now: instrument, point, tripod and tribrach, method and habits.
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { NoSignal, type SetUpMethods as Told } from "../../api/client";
import { deviceQuery } from "../../api/queries";
import { useHere, usePerson } from "../../app/session";
import { setUpMethods } from "../../engine";
import { type Fine, asDraft, beginSetUp } from "../../documents/setUp";
import { keepDraft } from "../../device/device";
import { habitsOf, keepHabits } from "./remembered";

export type NewSetUp = ReturnType<typeof useNewSetUp>;

export function useNewSetUp() {
  const { username, role } = usePerson();
  const { session } = useHere();
  const navigate = useNavigate();
  const [tag, setTag] = useState("");
  const [mark, setMark] = useState("");
  const [free, setFree] = useState(false);
  const [tripod, setTripod] = useState("");
  const [base, setBase] = useState("");
  const [way, setWay] = useState<string | null>(null);
  const [pressed, setPressed] = useState(false);
  const [habits, setOptions] = useState(() => habitsOf(username));
  const { ways: list, fine, trouble, base: below, coming } = useWays(tag, useKnownBase(base));
  const can = (name: string | null) => list.some((method) => method.way === name && !method.cannot);
  const chosen = [way, session.house_way].find(can) ?? list.find((method) => !method.cannot)?.way ?? null;
  const level = can("no-point");
  const lacking = !tag ? "Choose the instrument first." : !level && !free && !mark.trim() ? "Enter the point, or choose free station." : null;
  // What the instrument has no level for is not begun with, whatever the habit.
  const lacks = (name: string | undefined) => fine.find((each) => each.fine === name)?.cannot ?? null;
  const by = (lacks(habits.fine) ? fine.find((each) => !each.cannot)?.fine : habits.fine) as Fine | undefined;
  const options = { ...habits, ...(by ? { fine: by } : {}) };
  const begin = async (quick: boolean) => {
    setPressed(true);
    if (lacking || !chosen) return;
    const draft = beginSetUp(tag, username, {
      way: chosen,
      mark: level ? {} : free ? { free: true } : { name: mark.trim() },
      ...(tripod.trim() ? { tripod_tag: tripod.trim().toUpperCase() } : {}),
      ...(base.trim() ? { base_tag: base.trim().toUpperCase() } : {}),
      ...baseOf(chosen, below),
      options: { ...options, ...(role === "trainee" ? { strict: true } : {}) },
      quick,
      level: { by: by === "electronic" ? "electronic" : "plate" },
    });
    keepHabits(username, habits);
    await keepDraft(asDraft(draft));
    await navigate(`/stand/${draft.id}`);
  };
  const fields = { tag, setTag, mark, setMark, free, setFree, tripod, setTripod, base, setBase, setWay, setOptions };
  return { ...fields, options, lacks, list, chosen, level, lacking, pressed, coming, trouble, trainee: role === "trainee", begin };
}

type Below = NonNullable<Parameters<typeof beginSetUp>[2]["base"]>;

/** What is noted of the base: as stated of it, and four screws where the way is for four. */
function baseOf(way: string, below: Below): { base?: Below } {
  const told = way === "four-screws" ? { ...below, screws: 4 as const } : below;
  return Object.keys(told).length ? { base: told } : {};
}

/** The base's tag once it names one of the fleet; null while it does not. */
function useKnownBase(typed: string): string | null {
  const fleet = useQuery(deviceQuery).data ?? [];
  const tag = typed.trim().toUpperCase();
  return fleet.some((instrument) => instrument.tag === tag && instrument.kind === "tribrach") ? tag : null;
}

type Said = Told & { trouble: string | null; coming: boolean };
const NOTHING: Said = { ways: [], fine: [], base: {}, trouble: null, coming: false };

function useWays(tag: string, base: string | null): Said {
  const [told, setTold] = useState<Said & { tag: string }>({ ...NOTHING, tag: "" });
  useEffect(() => {
    if (!tag) return;
    let here = true;
    setUpMethods(tag, base).then(
      (answer) => here && setTold({ ...NOTHING, tag, ...answer }),
      (error: unknown) => here && setTold({ ...NOTHING, tag, trouble: error instanceof NoSignal ? "Offline, and the calculation is not yet stored on this device." : "The methods could not be loaded. Choose the instrument again." }),
    );
    return () => {
      here = false;
    };
  }, [tag, base]);
  return told.tag === tag ? told : { ...NOTHING, coming: tag !== "" };
}
