import { askingCells } from "../../documents/cells";
import type { CheckDocument } from "../../documents/draft";
import { type Placed, rowsOf } from "../../documents/form";
import { capital, lowered, ordinal } from "../../ui/words";

/** A cell in words: "Second set-up, staff on A, 2". */
export function cellInWords(document: CheckDocument, form: Placed[], path: string): string {
  const spot = askingCells(document, form).find((each) => each.path === path);
  if (!spot) return "";
  const { group, field, row } = spot;
  const part = group.entry ? `${capital(ordinal(group.entry.index))} ${group.entry.each.noun}, ` : "";
  const many = row !== null && rowsOf(document, group).length > 1;
  return `${part}${part ? lowered(group.title) : group.title}${group.fields.length > 1 ? `, ${lowered(field.label)}` : ""}${many ? `, ${row + 1}` : ""}`;
}
