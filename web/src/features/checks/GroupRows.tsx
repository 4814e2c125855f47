// The rows of a group: fields side by side, or readings of one place that can be struck.
import { useNarrow } from "../../hooks/useNarrow";
import type { Fault } from "../../api/client";
import { type Field, type Placed, countOf, faultsUnder, repeatOf, rowsOf, unitOf } from "../../documents/form";
import { listAt, spotId } from "../../documents/paths";
import { FaultLine } from "../../ui/parts";
import { FieldName, FieldInput } from "./GroupInputs";
import { isFewPairs, isTall, longestTitle, titlesBeside } from "./groupLayout";
import type { GroupProps } from "./sheetProps";

/** One row: its fields side by side, named above the first. */
export function RowFields(props: GroupProps & { row: number }) {
  const { row, group, document, preview, compact = false } = props;
  const narrow = useNarrow();
  const path = `${group.path}[${row}]`;
  const outlier = preview?.progress.outlier?.path.startsWith(path) ? preview.progress.outlier : null;
  const title = group.row_titles[row];
  const rows = rowsOf(document, group);
  const repeat = group.repeats ? repeatOf(rows[row]) : 1;
  const begins = repeat > 1 && (row === 0 || repeatOf(rows[row - 1]) !== repeat);
  return (
    <div
      data-row={path}
      data-outlier={outlier ? true : undefined}
      className="grid gap-1 data-[outlier]:rounded-md data-[outlier]:outline-3 data-[outlier]:outline-offset-4 data-[outlier]:outline-coral"
    >
      {begins && <h3 className="border-t border-line pt-3 font-semibold">Repeat {repeat}</h3>}
      {title && !titlesBeside(group, narrow) && <span className="font-semibold">{title}</span>}
      <RowInputs {...props} named={!compact && namesRow(group, row, countOf(document, group), begins, narrow)} />
      {faultsUnder(preview?.faults ?? [], path).map((each) => (
        <FaultLine key={each.path} id={`${spotId(each.path)}-fault`} fault={each} />
      ))}
      {outlier && <p className="fault">{outlier.text}</p>}
    </div>
  );
}

/** Whether the columns are named above a row: the first, of a repeat, of a second column, or below a title of its own. */
function namesRow(group: Placed, row: number, count: number, begins: boolean, narrow: boolean): boolean {
  if (isFewPairs(group, count)) return false;
  return (
    row === 0 ||
    begins ||
    Boolean(group.row_titles[row] && !titlesBeside(group, narrow)) ||
    (isTall(group, count) && row === Math.ceil(count / 2))
  );
}

/** On a phone what the method has filled in stands above the inputs that are typed, small; beside them it would cut them. */
function RowInputs({ named: nameAll, ...props }: GroupProps & { row: number; named: boolean }) {
  const { row, group, document, onRemove, compact = false } = props;
  const narrow = useNarrow();
  const given = group.fields.filter((field) => field.prefilled);
  const typed = group.fields.filter((field) => !field.prefilled);
  const above = narrow && given.length > 0 && typed.length > 1;
  const beside = above ? typed : group.fields;
  const removable = rowsOf(document, group).length > Math.max(group.fewest, 1);
  const widths = beside.map((field) => (field.prefilled ? "minmax(0, 104px)" : "minmax(0, 1fr)")).join(" ");
  const across = narrow ? 30 : isTall(group, countOf(document, group)) ? 18 : compact ? 26 : 44;
  const title = titlesBeside(group, narrow) ? group.row_titles[row] : undefined;
  const columns = [
    title ? `${longestTitle(group) * 0.5 + (longestTitle(group) > 9 ? 0.6 : 0)}em` : "",
    widths,
    removable ? `${across}px` : "",
  ]
    .filter(Boolean)
    .join(" ");
  return (
    <>
      {above && (
        <div className="flex flex-wrap gap-x-4 gap-y-1">
          {given.map((field) => (
            <div key={field.name} className="grid grid-cols-[auto_96px] items-center gap-2" data-prefilled>
              <FieldName field={field} document={document} />
              <FieldInput {...props} field={field} row={row} />
            </div>
          ))}
        </div>
      )}
      <div className="grid items-end gap-x-2 gap-y-2" style={{ gridTemplateColumns: columns }}>
        {title && <span className="font-semibold leading-[52px] desk:leading-[40px]">{title}</span>}
        {beside.map((field) => (
          <div key={field.name} className="min-w-0" data-prefilled={field.prefilled || undefined}>
            {(nameAll || above) && <FieldName field={field} document={document} />}
            <FieldInput
              {...props}
              field={field}
              row={row}
              placeholder={
                (compact || isFewPairs(group, countOf(document, group))) && row === 0
                  ? unitOf(field, document)
                  : undefined
              }
            />
          </div>
        ))}
        {removable && (
          <button
            className="sub min-h-[52px] text-[22px] leading-none desk:min-h-[40px] no-print"
            aria-label={`Remove row ${row + 1}, ${group.title}`}
            onClick={() => onRemove(group, row)}
          >
            ×
          </button>
        )}
      </div>
    </>
  );
}

/** Readings of one place, side by side. */
export function PlainList(props: GroupProps) {
  const { group, document, preview, compact = false } = props;
  const field = group.fields[0] as Field;
  const outlier = outlierOf(props);
  const columns = compact ? "grid-cols-[repeat(auto-fit,minmax(96px,1fr))]" : "grid-cols-3 tab:grid-cols-5";
  return (
    <div className="grid gap-1">
      <div className={`grid gap-2 ${columns}`}>
        {Array.from({ length: countOf(document, group) }, (_, row) => (
          <div
            key={row}
            data-outlier={outlier?.path === `${group.path}[${row}]` || undefined}
            className="min-w-0 data-[outlier]:rounded-md data-[outlier]:outline-3 data-[outlier]:outline-coral"
          >
            <FieldInput {...props} field={field} row={row} />
          </div>
        ))}
      </div>
      {faultsUnder(preview?.faults ?? [], group.path).map((each: Fault) => (
        <FaultLine key={each.path} id={`${spotId(each.path)}-fault`} fault={each} />
      ))}
      {outlier && <p className="fault">{outlier.text}</p>}
    </div>
  );
}

const outlierOf = ({ group, preview }: GroupProps) =>
  preview?.progress.outlier?.path.startsWith(`${group.path}[`) ? preview.progress.outlier : null;

/** A reading is struck visibly and put back: the one typed last, or the one that is an outlier. */
export function Struck(props: GroupProps) {
  const { group, document, at, keys } = props;
  if (!group.struck) return null;
  const rows = rowsOf(document, group);
  const outlier = outlierOf(props)?.path;
  const here = rows.findIndex((_, row) => `${group.path}[${row}]` === (outlier ?? at?.path));
  const value = here < 0 ? "" : String(rows[here] ?? "").trim();
  const struck = listAt(document, group.struck);
  if (!struck.length && (!value || rows.length < 2)) return null;
  return (
    <>
      {value && rows.length > 1 && (
        <button
          data-strike
          className="min-h-[48px] underline underline-offset-4"
          aria-label={`Strike ${value}, ${group.title}`}
          onClick={() => keys.strike(group, here)}
        >
          Strike <span className="font-mono">{value}</span>
        </button>
      )}
      {struck.map((each, i) => (
        <button
          key={`${String(each)}-${i}`}
          data-struck
          className="sub min-h-[48px] font-mono line-through"
          aria-label={`${String(each)} is struck: restore it, ${group.title}`}
          onClick={() => keys.putBack(group, i)}
        >
          {String(each)}
        </button>
      ))}
    </>
  );
}
