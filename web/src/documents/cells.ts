// The cells of a sheet as a device fills them: which are open, what each asks for, in the order in which they are read.
import type { OpenCell } from "../engine/devices";
import type { CheckDocument } from "./draft";
import { type Placed, type Spot, filledInstead, rowsOf, spotsOf } from "./form";
import { type Row, textAt } from "./paths";

/** Every cell a device may fill, in the order in which they are read. */
export const askingCells = (document: CheckDocument, form: Placed[]): Spot[] =>
  spotsOf(
    document,
    form.filter((each) => !each.setting && !each.before),
  ).filter(({ field }) => field.quantity);

/** Every quantity a sheet asks for. */
export const quantitiesOf = (document: CheckDocument, form: Placed[]): string[] => [
  ...new Set(askingCells(document, form).map(({ field }) => field.quantity)),
];

/** Open cells: from where one types now on, then what was passed over before. */
export function openCells(document: CheckDocument, form: Placed[], from: string | null): OpenCell[] {
  const spots = askingCells(document, form);
  const here = spotsOf(document, form).findIndex((each) => each.path === from);
  const later = new Set(
    spotsOf(document, form)
      .slice(Math.max(here, 0))
      .map((each) => each.path),
  );
  const open = spots.filter(
    (each) => !textAt(document, each.path).trim() && !filledInstead(form, each.group, each.field),
  );
  return [...open.filter((each) => later.has(each.path)), ...open.filter((each) => !later.has(each.path))].map(
    (spot) => ({
      path: spot.path,
      quantity: spot.field.quantity,
      unit: unitCode(document, spot),
      face: faceOf(document, spot),
    }),
  );
}

const unitCode = (document: CheckDocument, { field }: Spot): string =>
  field.kind === "length"
    ? (document.units?.length ?? "m")
    : field.kind === "angle"
      ? (document.units?.angle ?? "dms")
      : "arcsec";

/** The face a cell is read in: its list's, or its row's own. */
function faceOf(document: CheckDocument, { group, row }: Spot): "left" | "right" | null {
  const own = row === null ? undefined : (rowsOf(document, group)[row] as Row | undefined)?.["face"];
  const named = own ?? /\.(left|right)(?:\[|$)/.exec(group.path)?.[1];
  return named === "left" || named === "right" ? named : null;
}
