import type { Instrument } from "../../api/client";
import { useHere } from "../../app/session";
import { KIND_NAMES } from "../../ui/stated";
import { moment, whereabouts } from "../../ui/words";

const STATED: Record<string, (value: unknown) => [string, string]> = {
  levelling_accuracy_mm_per_km: (v) => ["Stated accuracy", `${v} mm per km, double run`],
  reading: (v) => ["Read", String(v)],
  magnification: (v) => ["Magnification", `${v} times`],
  angle_accuracy_arcsec: (v) => ["Angles", `${v}″`],
  distance_accuracy_mm: (v) => ["Distances", `${v} mm and more with length`],
  compensator_range_arcmin: (v) => ["Compensator range", `${v}′`],
  plummet: (v) => ["Plummet", String(v)],
  plate_vial_arcsec_per_div: (v) => ["Plate vial", `${v}″ a division`],
  circular_vial_arcmin_per_2mm: (v) => ["Circular vial", `${v}′ per 2 mm`],
  electronic_level_step_arcsec: (v) => ["Electronic level", `in steps of ${v}″`],
};
/** What an instrument is, by its papers. */
export function PassportCard({ one }: { one: Instrument }) {
  const { session } = useHere();
  const rows: [string, string][] = [
    ["Kind", KIND_NAMES[one.kind] ?? one.kind],
    ["Model", one.model],
    ["Serial", one.serial || "not entered"],
    ["Here since", moment(one.since, session.time_zone, false)],
    ["Where", whereabouts(one)],
    ...Object.entries(one.stated).flatMap(([name, value]) => (STATED[name] ? [STATED[name](value)] : [])),
  ];
  return (
    <section className="card p-5" aria-label="Passport">
      <h2 className="pb-2">Passport</h2>
      <dl className="m-0 grid grid-cols-[auto_minmax(0,1fr)] gap-x-4 gap-y-[6px]">
        {rows.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="sub">{name}</dt>
            <dd className="m-0">{value}</dd>
          </div>
        ))}
      </dl>
      {one.hints && <p className="mt-3 border-t border-line pt-3">{one.hints}</p>}
      <p className="sub mt-3 border-t border-line pt-3">What is found here are field checks. They are no accredited calibration.</p>
    </section>
  );
}
