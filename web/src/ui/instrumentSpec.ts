// What a maker states of an instrument: how each figure is named on the screen, and which of them belong to a kind.
// Names are those of a document's `instrument`; what a figure may be, the core says.

export type SpecField = { name: string; label: string; hint?: string; options?: { value: string; label: string }[] };

const PLUMMETS = [
  { value: "none", label: "None" },
  { value: "optical", label: "Optical" },
  { value: "laser", label: "Laser" },
];
const PLACES = [
  { value: "turning", label: "In the instrument" },
  { value: "tribrach", label: "In the tribrach" },
];
export const STORES = [
  { value: "error", label: "The error" },
  { value: "correction", label: "The correction" },
];
const SENSES_ALONG = [
  { value: "high-forward", label: "High side forward is plus" },
  { value: "low-forward", label: "Low side forward is plus" },
];
const SENSES_ACROSS = [
  { value: "high-right", label: "High side right is plus" },
  { value: "high-left", label: "High side left is plus" },
];
const THREADS = [
  { value: "clockwise-raises", label: "Clockwise raises" },
  { value: "clockwise-lowers", label: "Clockwise lowers" },
];
const TILTED = [
  { value: "yes", label: "Works when tilted" },
  { value: "no", label: "Only when level" },
];
const READINGS = [
  { value: "optical", label: "By eye" },
  { value: "micrometer", label: "Micrometer" },
  { value: "digital", label: "Digital" },
];
const HAS = [
  { value: "yes", label: "It has one" },
  { value: "no", label: "None" },
];
const COUNTS = [
  { value: "3", label: "Three" },
  { value: "4", label: "Four" },
];
const PLUNGES = [
  { value: "yes", label: "Turns over (plunges)" },
  { value: "no", label: "Does not" },
];
const FIELDS: Record<string, SpecField> = {
  levelling: { name: "levelling_accuracy_mm_per_km", label: "Stated accuracy, mm per km double run", hint: "2.0" },
  angles: { name: "angle_accuracy_arcsec", label: "Stated accuracy of angles, ″", hint: "3" },
  electronic: { name: "electronic_level", label: "Electronic level", options: HAS },
  vial: { name: "plate_vial", label: "Plate vial", options: HAS },
  step: { name: "electronic_level_step_arcsec", label: "Electronic level shows steps of, ″", hint: "1" },
  plate: { name: "plate_vial_arcsec_per_div", label: "Plate vial, ″ a division", hint: "30" },
  circular: { name: "circular_vial_arcmin_per_2mm", label: "Circular vial, ′ per 2 mm", hint: "8" },
  plummet: { name: "plummet", label: "Plummet", options: PLUMMETS },
  place: { name: "plummet_place", label: "The plummet", options: PLACES },
  along: { name: "display.along_positive", label: "Electronic level, along the sight", options: SENSES_ALONG },
  across: { name: "display.across_positive", label: "Electronic level, across it", options: SENSES_ACROSS },
  thread: { name: "foot_screws", label: "Foot screws, seen from above", options: THREADS },
  screws: { name: "foot_screw_count", label: "Foot screws", options: COUNTS },
  plunges: { name: "plunges", label: "Its telescope", options: PLUNGES },
  reading: { name: "reading", label: "It is read", options: READINGS },
  magnification: { name: "magnification", label: "Magnification, times", hint: "28" },
  distance: { name: "distance_accuracy_mm", label: "Stated accuracy of distances, mm", hint: "2" },
  perLength: { name: "distance_accuracy_ppm", label: "and with length, ppm", hint: "2" },
  range: { name: "compensator_range_arcmin", label: "Compensator range, ′", hint: "15" },
  shutsOff: { name: "tilt_limit_arcmin", label: "Electronic level shuts off at a tilt of, ′", hint: "6" },
  after: { name: "tilt_delay_s", label: "after, seconds", hint: "2" },
  bubble: { name: "bubble_step_arcsec", label: "One step of the bubble on its screen, ″", hint: "20" },
  tilted: { name: "plummet_tilted", label: "Its plummet", options: TILTED },
  stores: { name: "stores", label: "Its stored values are", options: STORES },
  storable: { name: "storable_arcsec", label: "It can store up to, ″", hint: "180" },
};
const total = [
  FIELDS.angles,
  FIELDS.magnification,
  FIELDS.distance,
  FIELDS.perLength,
  FIELDS.plunges,
  FIELDS.range,
  FIELDS.electronic,
  FIELDS.step,
  FIELDS.bubble,
  FIELDS.shutsOff,
  FIELDS.after,
  FIELDS.along,
  FIELDS.across,
  FIELDS.vial,
  FIELDS.plate,
  FIELDS.circular,
  FIELDS.plummet,
  FIELDS.place,
  FIELDS.tilted,
  FIELDS.thread,
  FIELDS.stores,
  FIELDS.storable,
];
const OF_KIND: Record<string, (SpecField | undefined)[]> = {
  level: [FIELDS.levelling, FIELDS.reading, FIELDS.range, FIELDS.circular, FIELDS.thread],
  "digital-level": [FIELDS.levelling, FIELDS.range, FIELDS.circular, FIELDS.thread],
  theodolite: [
    FIELDS.angles,
    FIELDS.magnification,
    FIELDS.plunges,
    FIELDS.electronic,
    FIELDS.vial,
    FIELDS.plate,
    FIELDS.circular,
    FIELDS.plummet,
    FIELDS.place,
    FIELDS.tilted,
    FIELDS.thread,
  ],
  "total-station": total,
  "robotic-total-station": total,
  tribrach: [FIELDS.circular, FIELDS.plummet, FIELDS.screws, FIELDS.thread],
  pole: [FIELDS.circular],
  staff: [FIELDS.circular],
};
/** Stated without being asked: it follows from the kind. */
const GIVEN: Record<string, Record<string, unknown>> = {
  level: { reading: "optical" },
  "digital-level": { reading: "digital" },
  tribrach: { plummet_place: "tribrach", circular_vial_on: "tribrach" },
};

export const KIND_NAMES: Record<string, string> = {
  level: "Automatic level",
  "digital-level": "Digital level",
  theodolite: "Theodolite",
  "total-station": "Total station",
  "robotic-total-station": "Robotic total station",
  tribrach: "Tribrach",
  pole: "Pole",
  staff: "Staff",
  tripod: "Tripod",
  tape: "Tape",
  prism: "Prism",
};

export const specFields = (kind: string): SpecField[] => (OF_KIND[kind] ?? []).filter((each) => each !== undefined);

const YES_NO = new Set(["plunges", "plummet_tilted", "electronic_level", "plate_vial"]);

/** As it is sent: what was filled in of the fields that belong to the kind, and what follows from it. */
export function specOf(kind: string, typed: Record<string, string>): Record<string, unknown> {
  const stated: Record<string, unknown> = { ...GIVEN[kind] };
  for (const { name } of specFields(kind)) {
    const value = typed[name]?.trim();
    if (!value) continue;
    const [whole = name, part] = name.split(".");
    if (part) stated[whole] = { ...(stated[whole] as object | undefined), [part]: value };
    else stated[name] = YES_NO.has(name) ? value === "yes" : name === "foot_screw_count" ? Number(value) : value;
  }
  return stated;
}

/** What is stated, as the fields of a form hold it. */
export function typedOf(kind: string, stated: Record<string, unknown>): Record<string, string> {
  const typed: Record<string, string> = {};
  for (const { name } of specFields(kind)) {
    const [whole = name, part] = name.split(".");
    const value = part ? (stated[whole] as Record<string, unknown> | undefined)?.[part] : stated[name];
    if (value !== undefined && value !== null) typed[name] = YES_NO.has(name) ? (value ? "yes" : "no") : String(value);
  }
  return typed;
}

/** What is stated and no field of the form holds: it stays. */
export const unlisted = (kind: string, stated: Record<string, unknown>): Record<string, unknown> => {
  const listed = new Set(specFields(kind).map(({ name }) => name.split(".")[0]));
  return Object.fromEntries(Object.entries(stated).filter(([name]) => !listed.has(name)));
};
