// How the rows of a group are laid out: side by side, in two columns, with their titles before or above them.
import type { CheckDocument } from "../../documents/draft";
import { type Placed, unitOf } from "../../documents/form";

export const named = (group: Placed, document: CheckDocument): string => {
  const unit = group.fields[0] ? unitOf(group.fields[0], document) : "";
  return unit ? `${group.title}, ${unit}` : group.title;
};

/** A few rows of two figures, such as a closing sight: two rows side by side, their names in the title. */
export const isFewPairs = (group: Placed, count: number): boolean =>
  group.rows &&
  group.fields.length === 2 &&
  count <= 4 &&
  group.row_titles.length === 0 &&
  group.fields.every((field) => !field.prefilled && field.kind !== "choice");

/** More rows of two figures than a screen is high: at a desk in two columns. */
export const isTall = (group: Placed, count: number): boolean => count > 12 && group.fields.length === 2;

export const longestTitle = (group: Placed): number => Math.max(0, ...group.row_titles.map((title) => title.length));

/** Titles of rows stand before them where there is room ("Pair 7"; at a desk "anticlockwise"), else above. */
export const titlesBeside = (group: Placed, narrow: boolean): boolean =>
  narrow ? group.fields.length <= 2 && longestTitle(group) <= 9 : group.fields.length <= 3 && longestTitle(group) <= 14;
