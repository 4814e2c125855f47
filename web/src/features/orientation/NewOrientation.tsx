// Begin an orientation: over a control point with another in sight, or anywhere with two or more.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import type { OrientationPreview } from "../../api/client";
import { pointsQuery } from "../../api/queries";
import { usePerson } from "../../app/session";
import type { Length } from "../../documents/draft";
import {
  type Angle,
  type Known,
  type OrientationKind,
  asDraft,
  asControlPoint,
  beginOrientation,
  orientationToSend,
  COUNTS,
  type Counts,
} from "../../documents/orientation";
import { storeDraft } from "../../device/device";
import { PickInstrument, useFleetHere } from "../../ui/PickInstrument";
import { Choice } from "../../ui/Choice";
import { Cautions, Dialog, Head, Lacking, Waiting } from "../../ui/parts";
import { SetUpTabs } from "../../ui/Tabs";
import { usePreview } from "../../hooks/useQuestion";
import { UNITS, firmUnit, rememberedAngle } from "../../ui/units";
import { SIGHTED } from "../../documents/instrumentKinds";
import { LoadSights } from "./LoadSights";
import { PickPoint } from "./PickPoint";
import { showRefusal } from "../../ui/refusal";

const alike = (name: string) => name.replaceAll(/[\s-]/g, "").toUpperCase();

const STANDS: { value: OrientationKind; label: string; hint: string }[] = [
  {
    value: "backsight",
    label: "At a control point",
    hint: "backsight to another: direction, distance and height are compared",
  },
  {
    value: "free-station",
    label: "Free station",
    hint: "two or more control points give position and orientation; three show which one is wrong",
  },
];

export function NewOrientation() {
  const [query] = useSearchParams();
  const { username } = usePerson();
  const navigate = useNavigate();
  const points = useQuery(pointsQuery);
  const fleet = useFleetHere();
  const mark = query.get("point") ?? "";
  const [tag, setTag] = useState(query.get("instrument") ?? "");
  const [chosen, setKind] = useState<OrientationKind | null>(null);
  const kind = chosen ?? (query.has("set-up") && !mark ? "free-station" : "backsight");
  const [angle, setAngle] = useState<Angle>(
    () => (localStorage.getItem("naveta.angle") as Angle | null) ?? (rememberedAngle() as Angle),
  );
  const [length, setLength] = useState<Length>(firmUnit);
  // As it was noted at the set-up, where one is known.
  const [counts, setCounts] = useState<Counts>(query.get("counts") === "anticlockwise" ? "anticlockwise" : "clockwise");
  const [loading, setLoading] = useState(false);
  const [picked, setPicked] = useState<Known | null>(null);
  const [missing, setMissing] = useState(false);
  const named = points.data?.points.find((point) => alike(point.name) === alike(mark));
  const station = picked ?? (named ? asControlPoint(named) : null);
  const begin = async () => {
    if (!tag || (kind === "backsight" && !station)) {
      showRefusal();
      return setMissing(true);
    }
    localStorage.setItem("naveta.angle", angle);
    const height = query.get("height");
    const near = kind === "backsight" ? (points.data?.points ?? []).slice(0, 60).map(asControlPoint) : [];
    const draft = beginOrientation(
      tag,
      username,
      kind,
      { angle, length },
      {
        ...(kind === "backsight" && station
          ? { station, control: near.filter((each) => each.name !== station.name) }
          : {}),
        ...(height ? { instrument_height: `${height} m` } : {}),
        ...(counts === "anticlockwise" ? { counts } : {}),
        ...(query.get("set-up") ? { of_set_up: query.get("set-up") ?? "" } : {}),
      },
    );
    await storeDraft(asDraft(draft));
    await navigate(`/orientation/${draft.id}`);
  };
  if (!fleet || points.isPending) return <Waiting what="Opening the control points…" />;
  return (
    <div className="grid gap-4">
      <NewHead onLoad={() => setLoading(true)} />
      <Dialog title="Load sights from a file" open={loading} onClose={() => setLoading(false)}>
        <LoadSights kind={kind} station={station} />
      </Dialog>
      <section className="card grid max-w-[720px] gap-6 p-5" aria-label="Instrument and points">
        <PickInstrument value={tag} missing={missing && !tag} kinds={SIGHTED} onChange={setTag} />
        <Choice label="Set-up" value={kind} stacked options={STANDS} onChange={setKind} />
        {kind === "backsight" && (
          <div>
            <PickPoint
              key={named?.name ?? "none"}
              label="Station point"
              value={station?.name ?? mark}
              onPick={setPicked}
            />
            {missing && !station && <Lacking at="station">Choose the station point.</Lacking>}
          </div>
        )}
        <ReadIn
          angle={angle}
          onAngle={setAngle}
          counts={counts}
          onCounts={setCounts}
          length={length}
          onLength={setLength}
        />
        {tag && <Before tag={tag} kind={kind} units={{ angle, length }} />}
        <button className="btn now site" onClick={() => void begin()}>
          Start with the first sight
        </button>
      </section>
    </div>
  );
}

/** What to mind with this instrument, before it is sighted with. */
function Before({ tag, kind, units }: { tag: string; kind: OrientationKind; units: { angle: Angle; length: Length } }) {
  const { document } = beginOrientation(tag, "", kind, units, {});
  const { answer } = usePreview<OrientationPreview>(tag, orientationToSend(document), "question");
  return answer && <Cautions cautions={answer.cautions} />;
}

function NewHead({ onLoad }: { onLoad: () => void }) {
  return (
    <>
      <SetUpTabs />
      <Head
        title="Station orientation"
        sub="Sight control points and see whether they agree, and which one does not."
        actions={
          <button className="btn" onClick={onLoad}>
            Load from a file
          </button>
        }
      />
    </>
  );
}

type ReadInProps = {
  angle: Angle;
  onAngle: (value: Angle) => void;
  counts: Counts;
  onCounts: (value: Counts) => void;
  length: Length;
  onLength: (value: Length) => void;
};

/** In what circle and distances are read. */
function ReadIn({ angle, onAngle, counts, onCounts, length, onLength }: ReadInProps) {
  return (
    <>
      <div className="grid gap-2">
        <p className="font-semibold">Circle unit</p>
        <Choice
          label="Unit of angles"
          value={angle}
          options={[
            { value: "dms", label: "° ′ ″", hint: "102.4305" },
            { value: "gon", label: "gon" },
            { value: "deg", label: "decimal °" },
          ]}
          onChange={onAngle}
        />
      </div>
      <div className="grid gap-2">
        <p className="font-semibold">The circle counts</p>
        <Choice label="The circle counts" value={counts} options={COUNTS} onChange={onCounts} />
      </div>
      <div className="grid gap-2">
        <p className="font-semibold">Distances and heights in</p>
        <Choice
          label="Unit of lengths"
          value={length}
          options={UNITS.filter((each) => ["m", "ft", "usft"].includes(each.value))}
          onChange={onLength}
        />
      </div>
    </>
  );
}
