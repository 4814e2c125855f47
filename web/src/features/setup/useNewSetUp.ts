// A set-up as it would be begun now: instrument, point, tripod and tribrach, method and habits.
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { NoSignal, type SetUpMethods as Entered } from "../../api/client";
import { deviceQuery } from "../../api/queries";
import { useHere, usePerson } from "../../app/session";
import { setUpMethods } from "../../engine";
import { type LevelType, asDraft, beginSetUp } from "../../documents/setUp";
import { type Work, workAtHand } from "../../documents/work";
import { storeDraft } from "../../device/device";
import { firmUnit } from "../../ui/units";
import { habitsOf, storeHabits } from "./remembered";
import { showRefusal } from "../../ui/refusal";

export type NewSetUpState = ReturnType<typeof useNewSetUp>;

export function useNewSetUp() {
  const { username, role } = usePerson();
  const { session } = useHere();
  const navigate = useNavigate();
  const [tag, setTag] = useState("");
  const [mark, setMark] = useState("");
  const [free, setFree] = useState(false);
  const [tripod, setTripod] = useState("");
  const [tribrach, setTribrach] = useState("");
  const [method, setMethod] = useState<string | null>(null);
  const [pressed, setPressed] = useState(false);
  const [work, setWork] = useState<Work>(() => workAtHand(session.work as Work));
  const [habits, setOptions] = useState(() => habitsOf(username));
  const {
    methods: list,
    level_type,
    trouble,
    tribrach: below,
    coming,
  } = useSetUpMethods(tag, useFleetTribrach(tribrach));
  const can = (name: string | null) => list.some((method) => method.method === name && !method.cannot);
  const chosen = [method, session.preferred_method].find(can) ?? list.find((method) => !method.cannot)?.method ?? null;
  const level = can("no-point");
  const lacking = !tag
    ? "Choose the instrument first."
    : !level && !free && !mark.trim()
      ? "Enter the point, or choose free station."
      : null;
  // What the instrument has no level for is not begun with, whatever the habit.
  const lacks = (name: string | undefined) => level_type.find((each) => each.level_type === name)?.cannot ?? null;
  const usual = level_type.find((each) => !each.cannot)?.level_type;
  const by = (habits.level_type && !lacks(habits.level_type) ? habits.level_type : usual) as LevelType | undefined;
  const options = { ...habits, ...(by ? { level_type: by } : {}) };
  const begin = async (quick: boolean) => {
    setPressed(true);
    if (lacking) showRefusal();
    if (lacking || !chosen) return;
    const draft = beginSetUp(
      tag,
      username,
      {
        method: chosen,
        mark: level ? {} : free ? { free: true } : { name: mark.trim() },
        ...(tripod.trim() ? { tripod_tag: tripod.trim().toUpperCase() } : {}),
        ...(tribrach.trim() ? { tribrach_tag: tribrach.trim().toUpperCase() } : {}),
        ...tribrachOf(chosen, below),
        options: { ...options, ...(role === "trainee" ? { strict: true } : {}) },
        quick,
        level: { by: by === "electronic" ? "electronic" : "plate" },
      },
      firmUnit(),
    );
    storeHabits(username, habits);
    await storeDraft(asDraft(Object.keys(work).length ? { ...draft, document: { ...draft.document, work } } : draft));
    await navigate(`/set-up/${draft.id}`);
  };
  const fields = {
    tag,
    setTag,
    mark,
    setMark,
    free,
    setFree,
    tripod,
    setTripod,
    tribrach,
    setTribrach,
    setMethod,
    setOptions,
    work,
    setWork,
  };
  return {
    ...fields,
    options,
    lacks,
    list,
    chosen,
    level,
    lacking,
    pressed,
    coming,
    trouble,
    trainee: role === "trainee",
    begin,
  };
}

type Below = NonNullable<Parameters<typeof beginSetUp>[2]["tribrach"]>;

/** What is noted of the tribrach: as stated of it, and four screws where the way is for four. */
function tribrachOf(method: string, below: Below): { tribrach?: Below } {
  const fields = method === "four-screws" ? { ...below, screws: 4 as const } : below;
  return Object.keys(fields).length ? { tribrach: fields } : {};
}

/** The tribrach's tag once it names one of the fleet; null while it does not. */
function useFleetTribrach(typed: string): string | null {
  const fleet = useQuery(deviceQuery).data ?? [];
  const tag = typed.trim().toUpperCase();
  return fleet.some((instrument) => instrument.tag === tag && instrument.kind === "tribrach") ? tag : null;
}

type GuidedPreview = Entered & { trouble: string | null; coming: boolean };
const NOTHING: GuidedPreview = { methods: [], level_type: [], tribrach: {}, trouble: null, coming: false };

function useSetUpMethods(tag: string, tribrach: string | null): GuidedPreview {
  const [found, setAnswer] = useState<GuidedPreview & { tag: string }>({ ...NOTHING, tag: "" });
  useEffect(() => {
    if (!tag) return;
    let here = true;
    setUpMethods(tag, tribrach).then(
      (answer) => here && setAnswer({ ...NOTHING, tag, ...answer }),
      (error: unknown) =>
        here &&
        setAnswer({
          ...NOTHING,
          tag,
          trouble:
            error instanceof NoSignal
              ? "Offline, and the calculation is not yet stored on this device."
              : "The methods could not be loaded. Choose the instrument again.",
        }),
    );
    return () => {
      here = false;
    };
  }, [tag, tribrach]);
  return found.tag === tag ? found : { ...NOTHING, coming: tag !== "" };
}
