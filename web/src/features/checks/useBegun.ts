// A check as it would be begun now: its method, units and looks; kept on this device when reading starts.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import type { Instrument, Kind } from "../../api/client";
import { useHere, usePerson } from "../../app/session";
import { type Work, workAtHand } from "../../documents/work";
import { beginDocument } from "../../engine";
import { type CheckDocument, type Length, begin } from "../../documents/draft";
import { type Group, type Method, hasField, place } from "../../documents/form";
import { withAt } from "../../documents/paths";
import { toggleInstead } from "../../documents/typing";
import { storeDraft } from "../../device/device";
import { remember, rememberedAngle, rememberedMethod, rememberedUnit } from "../../ui/units";

export function useBegun(entry: Instrument, kind: Kind) {
  const person = usePerson();
  const firmWork = useHere().session.work as Work;
  const navigate = useNavigate();
  const [query] = useSearchParams();
  const round = query.get("round");
  const [name, setMethod] = useState(() => query.get("method") ?? rememberedMethod(kind.kind));
  const [unit, setUnit] = useState<Length>(rememberedUnit);
  const [angle, setAngle] = useState(rememberedAngle);
  const [looks, setLooks] = useState<Record<string, unknown>>({});
  const [instead, setInstead] = useState(() => localStorage.getItem("instead") === "yes");
  const methods = kind.methods.filter((each) => entry.methods[kind.kind]?.includes(each.name));
  const method = (methods.find((each) => each.name === name) ?? methods[0]) as Method;
  const other = method.groups.find((group) => group.instead)?.instead?.title;
  const begun = useBeginning(kind, method, unit, angle);
  const document = begun.data ? withLooks(begun.data, looks) : undefined;
  const start = async () => {
    if (!document || !begun.data) return;
    // What a round takes quickly is not how it is taken otherwise.
    remember({
      unit: hasField(method.groups, "length") && !method.unit ? unit : undefined,
      angle: hasField(method.groups, "angle") ? angle : undefined,
      method: round ? undefined : { kind: kind.kind, name: method.name },
    });
    if (other) localStorage.setItem("instead", instead ? "yes" : "no");
    const typed = other && instead ? readInstead(document, method.groups, begun.data.observations) : document;
    const draft = begin({
      kind: kind.kind,
      instrument: entry.tag,
      owner: person.username,
      document: withWork(typed, workAtHand(firmWork)),
      begun: begun.data.observations,
      ...(round ? { round } : {}),
    });
    await storeDraft(draft);
    await navigate(`/bench/${draft.id}`);
  };
  return {
    round,
    methods,
    method,
    setMethod,
    unit,
    setUnit,
    angle,
    setAngle,
    looks,
    setLooks,
    other,
    instead,
    setInstead,
    document,
    error: begun.error,
    start,
  };
}

function useBeginning(kind: Kind, method: Method, unit: Length, angle: string) {
  const angles = hasField(method.groups, "angle") ? angle : "";
  return useQuery({
    queryKey: ["begin", kind.kind, method.name, unit, angles],
    queryFn: () => beginDocument(kind.kind, method.name, unit, angles),
    staleTime: Infinity,
    networkMode: "always",
  });
}

const withWork = (document: CheckDocument, work: Work): CheckDocument =>
  Object.keys(work).length ? { ...document, work } : document;

const withLooks = (begun: CheckDocument, looks: Record<string, unknown>): CheckDocument =>
  Object.entries(looks).reduce((grown, [path, value]) => withAt(grown, path, value), begun);

/** Everything read by what may be filled instead from the beginning. */
function readInstead(document: CheckDocument, groups: Group[], begun: unknown): CheckDocument {
  const form = place(document, groups);
  const first = form.find((group) => group.instead);
  return first ? toggleInstead(document, form, first, begun) : document;
}
