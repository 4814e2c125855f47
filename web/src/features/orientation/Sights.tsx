// The sights, one open at a time: which point, and what circle, distance and target height were read.
import { fixed } from "../../api/writing";
import { useState } from "react";
import type { Fault, OrientationPreview } from "../../api/client";
import {
  type OrientationDraft,
  type Shot,
  observing,
  withPoint,
  withShot,
  type Write,
} from "../../documents/orientation";
import { Choice } from "../../ui/Choice";
import { Named } from "../../ui/Named";
import { Fold, focusOn } from "../../ui/Fold";
import { PickPoint } from "./PickPoint";
import { after } from "../../timers";

type Props = { draft: OrientationDraft; preview: OrientationPreview | null; faults: Fault[]; write: Write };
type PointResult = { path: string; along_mm: number | null; across_mm: number | null; height_mm: number | null };

export function Sights({ draft, preview, faults, write }: Props) {
  const { shots } = draft.document.observations;
  const [open, setOpen] = useState(shots.length - 1);
  const misfits = ((preview?.reduced?.result["points"] ?? []) as PointResult[]).reduce(
    (all, point) => ({ ...all, [point.path]: point }),
    {} as Record<string, PointResult>,
  );
  const add = () => {
    write((each) =>
      observing(each, {
        shots: [
          ...each.document.observations.shots,
          shots[shots.length - 1]?.target_height ? { target_height: shots[shots.length - 1]?.target_height ?? "" } : {},
        ],
      }),
    );
    setOpen(shots.length);
  };
  const remove = (index: number) => {
    write((each) => observing(each, { shots: each.document.observations.shots.filter((_, i) => i !== index) }));
    setOpen(-1);
  };
  return (
    <div className="grid gap-3">
      <ol className="m-0 grid list-none gap-3 p-0">
        {shots.map((shot, i) =>
          i === open ? (
            <li key={i} className="grid gap-3 rounded-md border-2 border-ink p-4" data-shot={i}>
              <OpenSight
                draft={draft}
                index={i}
                shot={shot}
                faults={faults}
                write={write}
                onRemove={shots.length > 1 ? () => remove(i) : null}
                onNext={add}
              />
            </li>
          ) : (
            <li key={i} data-shot={i}>
              <Row
                shot={shot}
                soFar={preview?.progress.find((each) => each.path === `observations.shots[${i}]`)?.text ?? ""}
                misfit={misfits[`observations.shots[${i}]`]}
                faulty={faults.some((fault) => fault.path.startsWith(`observations.shots[${i}]`))}
                onOpen={() => setOpen(i)}
                onLeave={() => write((each) => withShot(each, i, { left_out: !shot.left_out }))}
              />
            </li>
          ),
        )}
      </ol>
      <button className="btn justify-self-start" onClick={add}>
        One more sight
      </button>
    </div>
  );
}

type RowProps = {
  shot: Shot;
  soFar: string;
  misfit: PointResult | undefined;
  faulty: boolean;
  onOpen: () => void;
  onLeave: () => void;
};

function Row({ shot, soFar, misfit, faulty, onOpen, onLeave }: RowProps) {
  const off = misfit
    ? [
        misfit.along_mm === null ? null : `Off along ${mm(misfit.along_mm)}`,
        misfit.across_mm === null ? null : `across ${mm(misfit.across_mm)}`,
        misfit.height_mm === null ? null : `height ${mm(misfit.height_mm)}`,
      ]
        .filter(Boolean)
        .join(", ")
    : "";
  return (
    <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-2 border-b border-line pb-2">
      <button className="min-h-[48px] min-w-0 flex-1 text-left" onClick={onOpen}>
        <span className={`tag text-[19px] ${shot.left_out ? "line-through" : ""}`}>{shot.point || "No point yet"}</span>{" "}
        <span className="font-mono">{shot.hz}</span>
        {faulty && <span className="fault ml-2 inline-block !border-0 !p-0">cannot be read yet</span>}
        <span className="sub block">{shot.left_out ? "left out" : [soFar, off].filter(Boolean).join(". ")}</span>
      </button>
      <button className="btn" onClick={onLeave}>
        {shot.left_out ? "Include again" : "Leave out"}
      </button>
    </div>
  );
}

function mm(value: number): string {
  const text = fixed(Math.abs(value), Math.abs(value) < 100 ? 1 : 0);
  return `${text === "0.0" ? "" : value < 0 ? "−" : "+"}${text} mm`;
}

type OpenProps = {
  draft: OrientationDraft;
  index: number;
  shot: Shot;
  faults: Fault[];
  write: Write;
  onRemove: (() => void) | null;
  onNext: () => void;
};

function OpenSight({ draft, index, shot, faults, write, onRemove, onNext }: OpenProps) {
  const set = (name: keyof Shot) => (text: string) => write((each) => withShot(each, index, { [name]: text }));
  const path = `observations.shots[${index}]`;
  const id = (name: string) => `shot-${index}-${name}`;
  const { angle } = draft.document.units;
  const length = draft.document.units.length;
  const unit = angle === "dms" ? "dd.mmss" : angle === "gon" ? "gon" : "°";
  const input = (
    name: "hz" | "v" | "slope_distance" | "horizontal_distance" | "target_height",
    label: string,
    next: string | null,
  ) => (
    <Named
      id={id(name)}
      label={label}
      value={shot[name] ?? ""}
      onType={set(name)}
      faults={faults}
      path={`${path}.${name}`}
      onNext={next ? focusOn(id(next)) : onNext}
    />
  );
  const whole = faults.filter((fault) => fault.path === path || fault.path === `${path}.point`);
  return (
    <>
      <PickPoint
        key={shot.point ?? ""}
        label={index === 0 ? "First sight, to" : "Sight to"}
        value={shot.point ?? ""}
        onPick={(point) => {
          write((each) => withPoint(each, index, point));
          after("nextField", focusOn(id("hz")));
        }}
      />
      {whole.map((each) => (
        <p key={each.path + each.wanted} className="fault" role="alert" data-fault={each.path}>
          Wanted: {each.wanted}.
        </p>
      ))}
      <div className="grid grid-cols-2 gap-3">
        {input("hz", `Horizontal circle, ${unit}`, "v")}
        {input("v", `Zenith angle, ${unit}`, "slope_distance")}
        {input("slope_distance", `Slope distance, ${length}`, "target_height")}
        {input("target_height", `Target height, ${length}`, null)}
      </div>
      <Fold
        title="Face right, or a horizontal distance"
        open={shot.face === "right" || Boolean(shot.horizontal_distance)}
      >
        <Choice
          label="Face"
          value={shot.face ?? "left"}
          options={[
            { value: "left", label: "Face left" },
            { value: "right", label: "Face right" },
          ]}
          onChange={(face) => write((each) => withShot(each, index, { face }))}
        />
        <div className="max-w-[220px]">{input("horizontal_distance", `Horizontal distance, ${length}`, null)}</div>
      </Fold>
      {onRemove && (
        <button className="link justify-self-start" onClick={onRemove}>
          Remove this sight
        </button>
      )}
    </>
  );
}
