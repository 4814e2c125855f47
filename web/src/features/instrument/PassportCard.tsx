import { written } from "../../api/writing";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { fetchAgain } from "../../api/again";
import { type Fault, type Instrument, NoSignal, Problem, api, data } from "../../api/client";
import { useNotify } from "../../app/notices";
import { useHere } from "../../app/session";
import { Choice } from "../../ui/Choice";
import { Dialog, FaultLine } from "../../ui/parts";
import { PrintLabels } from "../../ui/PrintLabels";
import { KIND_NAMES, STORES } from "../../ui/instrumentSpec";
import { day, whereabouts } from "../../ui/words";

const SPEC_FIELDS: Record<string, (value: unknown) => [string, string]> = {
  levelling_accuracy_mm_per_km: (v) => ["Stated accuracy", `${v} mm per km, double run`],
  reading: (v) => ["Read", String(v)],
  magnification: (v) => ["Magnification", `${v} times`],
  angle_accuracy_arcsec: (v) => ["Angles", `${v}″`],
  distance_accuracy_mm: (v) => ["Distances", `${v} mm and more with length`],
  compensator_range_arcmin: (v) => ["Compensator range", `${v}′`],
  plummet: (v) => ["Plummet", String(v)],
  plate_vial: (v) => ["Plate vial", v ? "it has one" : "none"],
  plate_vial_arcsec_per_div: (v) => ["Plate vial", `${v}″ a division`],
  circular_vial_arcmin_per_2mm: (v) => ["Circular vial", `${v}′ per 2 mm`],
  electronic_level: (v) => ["Electronic level", v ? "it has one" : "none"],
  electronic_level_step_arcsec: (v) => ["Electronic level", `in steps of ${v}″`],
  stores: (v) => ["Stored values", v === "error" ? "the error" : "the correction"],
  storable_arcsec: (v) => ["Can store up to", `${v}″`],
};
/** What an instrument is, by its papers. */
export function PassportCard({ item }: { item: Instrument }) {
  const { session, may } = useHere();
  const [printing, setPrinting] = useState(false);
  const rows: [string, string][] = [
    ["Kind", written(KIND_NAMES[item.kind] ?? item.kind)],
    ["Model", item.model],
    ["Serial", item.serial || "not entered"],
    ["With the firm since", day(item.since, session.time_zone)],
    ["Kept at", whereabouts(item)],
    ...Object.entries(item.stated).flatMap(([name, value]) => (SPEC_FIELDS[name] ? [SPEC_FIELDS[name](value)] : [])),
  ];
  return (
    <section className="card px-5 py-2" aria-label="Passport">
      <details className="fold">
        <summary>Passport</summary>
        <dl className="m-0 grid grid-cols-[auto_minmax(0,1fr)] gap-x-4 gap-y-[6px]">
          {rows.map(([name, value]) => (
            <div key={name} className="contents">
              <dt className="sub">{name}</dt>
              <dd className="m-0">{value}</dd>
            </div>
          ))}
        </dl>
        {item.checks.includes("two-face") && <Storing item={item} />}
        {item.tips && <p className="mt-3 border-t border-line pt-3">{item.tips}</p>}
        <p className="sub mt-3 border-t border-line pt-3">These are field checks, not an accredited calibration.</p>
        <p className="mt-3">
          <button className="btn" onClick={() => setPrinting(true)}>
            Print its label
          </button>
        </p>
        <PrintLabels tags={[item.tag]} open={printing} onClose={() => setPrinting(false)} />
        {may("manage-fleet").allowed && (
          <Link className="link" to="/settings/models">
            Everything stated of {item.model}
          </Link>
        )}
      </details>
    </section>
  );
}

/** How this model stores what was found: stated once by the manager, so that no sign is guessed when storing. */
function Storing({ item }: { item: Instrument }) {
  const { may } = useHere();
  const client = useQueryClient();
  const notify = useNotify();
  const [open, setOpen] = useState(false);
  const [stores, setStores] = useState(String(item.stated["stores"] ?? ""));
  const [most, setMost] = useState(String(item.stated["storable_arcsec"] ?? ""));
  const [faults, setFaults] = useState<Fault[]>([]);
  if (!may("manage-fleet").allowed) return null;
  const save = async () => {
    try {
      await data(
        api.PUT("/api/instruments/{tag}/storing", {
          params: { path: { tag: item.tag } },
          body: { stores: stores || null, storable_arcsec: most.trim() || null },
        }),
      );
      await fetchAgain(client);
      setOpen(false);
      notify({ text: `Saved for every ${item.model}.` });
    } catch (error) {
      if (error instanceof Problem) setFaults(error.faults);
      else notify({ text: error instanceof NoSignal ? "This needs a connection." : "Not saved. Try again." });
    }
  };
  return (
    <>
      <button className="link mt-2 min-h-[44px]" onClick={() => setOpen(true)}>
        {item.stated["stores"] ? "Change how it stores values" : "Enter how it stores values"}
      </button>
      <Dialog title={`How every ${item.model} stores`} open={open} onClose={() => setOpen(false)}>
        <div className="grid gap-4">
          <p>
            See the manual; or store a value, measure again, and see which way it changed. New values are then given
            with the right sign.
          </p>
          <Choice label="Its stored values are" value={stores} options={STORES} onChange={setStores} />
          <label className="grid gap-1 font-semibold">
            It can store up to, ″ (if known)
            <input
              className="field"
              inputMode="decimal"
              value={most}
              onChange={(event) => setMost(event.target.value)}
            />
          </label>
          {faults.map((fault) => (
            <FaultLine key={fault.path} fault={fault} />
          ))}
          <button className="btn now site" onClick={() => void save()}>
            Save
          </button>
        </div>
      </Dialog>
    </>
  );
}
