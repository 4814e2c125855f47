// One group of a sheet: fields given once, rows of fields, or readings of one place side by side.
import type { CSSProperties } from "react";
import { useNarrow } from "../../hooks/useNarrow";
import type { Fault } from "../../api/client";
import type { CheckDocument } from "../../documents/draft";
import { type Field, type Placed, countOf, faultsUnder, pathOf, repeatOf, rowsOf, filledInstead, unitOf } from "../../documents/form";
import { listAt, spotId, textAt, valueAt } from "../../documents/paths";
import { Choice } from "../../ui/Choice";
import { FaultLine } from "../../ui/parts";
import { written } from "../../api/writing";
import { NumberField } from "../../ui/NumberField";
import type { SheetProps } from "./sheetProps";

export type GroupProps = SheetProps & { group: Placed; compact?: boolean };

export function GroupFields(props: GroupProps) {
  const { group, document, compact = false } = props;
  const plain = group.rows && group.fields.length === 1 && !group.fields[0]?.name;
  if (!group.rows && compact) return <Compact {...props} />;
  if (!group.rows && group.fields.every((field) => field.kind !== "choice" && field.kind !== "switch")) return <Line {...props} />;
  const count = countOf(document, group);
  const face = compact && group.rows && !plain;
  const pairs = !compact && isFewPairs(group, count);
  const tall = !compact && isTall(group, count);
  return (
    <div role="group" aria-label={group.title} data-group={group.own} data-by-instead={group.byInstead || undefined} className={`grid content-start ${compact ? "min-w-0 gap-[6px]" : "gap-3 desk:gap-2"} ${group.byInstead ? "col-span-2" : ""}`}>
      <div className={`flex items-baseline justify-between gap-x-6 ${face ? "max-desk:flex-wrap desk:gap-x-2" : "flex-wrap"}`}>
        {compact ? <span className="sub block font-semibold leading-tight">{face ? <FaceTitle group={group} /> : named(group, document)}</span> : group.title !== group.page && <h2>{pairs ? <FaceTitle group={group} /> : group.title}</h2>}
        {plain && !compact && <More {...props} rows={count} />}
        {face && <MoreSign {...props} rows={count} />}
        {group.note && <p className="sub w-full desk:hidden">{group.note}</p>}
      </div>
      {!group.rows && <Fields {...props} />}
      {plain && <PlainList {...props} />}
      {group.rows && !plain && (
        <div className={`grid ${tall ? "gap-x-4" : "gap-x-6"} ${compact ? "gap-y-1" : "gap-y-2 desk:gap-y-1"} ${pairs ? "desk:grid-cols-2" : ""} ${tall ? "desk:grid-flow-col desk:grid-cols-2 desk:[grid-template-rows:repeat(var(--half),auto)]" : ""}`} style={{ "--half": Math.ceil(count / 2) } as CSSProperties}>
          {Array.from({ length: count }, (_, row) => (
            <RowFields key={row} row={row} {...props} />
          ))}
        </div>
      )}
      <div className={`flex flex-wrap items-center gap-x-5 no-print ${face ? "desk:hidden" : ""}`}>
        {(!plain || compact) && <More {...props} rows={count} />}
        {plain && <Struck {...props} />}
      </div>
      <Beside {...props} />
    </div>
  );
}

const named = (group: Placed, document: CheckDocument): string => {
  const unit = group.fields[0] ? unitOf(group.fields[0], document) : "";
  return unit ? `${group.title}, ${unit}` : group.title;
};

/** One field of an entry's part, in the narrow column before its readings. */
function Compact(props: GroupProps) {
  const { group, document, form, preview } = props;
  const field = group.fields[0] as Field;
  const path = pathOf(group, field, null);
  const instead = filledInstead(form, group, field);
  return (
    <div className={`min-w-0 content-start grid gap-[6px] ${instead ? "order-2 col-span-2 grid-cols-[auto_minmax(0,1fr)] items-center pt-1" : ""}`} data-group={group.own} data-prefilled={(field.prefilled && !instead) || undefined}>
      <span className="sub block font-semibold leading-tight">{named(group, document)}</span>
      <div>
        <FieldInput {...props} field={field} row={null} placeholder={instead?.instead ? `by ${instead.instead.title.toLowerCase()}` : undefined} />
        {faultsUnder(preview?.faults ?? [], path).map((each) => (
          <FaultLine key={each.path} id={`${spotId(path)}-fault`} fault={each} beside />
        ))}
      </div>
    </div>
  );
}

/** "Face left: horizontal, zenith angle": the names of its columns in one line; the unit stands in the first cells. */
function FaceTitle({ group }: { group: Placed }) {
  return (
    <>
      {group.title}
      <span className="font-normal">: {group.fields.filter((field) => !field.prefilled).map((field) => field.label.toLowerCase()).join(", ")}</span>
    </>
  );
}

/** A few rows of two figures, such as a closing sight: two rows side by side, their names in the title. */
const isFewPairs = (group: Placed, count: number): boolean => group.rows && group.fields.length === 2 && count <= 4 && group.row_titles.length === 0 && group.fields.every((field) => !field.prefilled && field.kind !== "choice");

/** More rows of two figures than a screen is high: at a desk in two columns. */
const isTall = (group: Placed, count: number): boolean => count > 12 && group.fields.length === 2;

const longestTitle = (group: Placed): number => Math.max(0, ...group.row_titles.map((title) => title.length));

/** Titles of rows stand before them where there is room ("Pair 7"; at a desk "anticlockwise"), else above. */
const titlesBeside = (group: Placed, narrow: boolean): boolean => (narrow ? group.fields.length <= 2 && longestTitle(group) <= 9 : group.fields.length <= 3 && longestTitle(group) <= 14);

/** One more row, where there is no room for a line of its own. */
function MoreSign({ group, rows, keys }: GroupProps & { rows: number }) {
  if (!group.rows || !group.more || rows >= group.most) return null;
  return (
    <button className="hidden h-6 w-7 rounded text-[18px] leading-none font-semibold shadow-[inset_0_0_0_1.5px_var(--color-ink)] desk:block no-print" title={group.more} aria-label={`${group.more}, ${group.title}`} onClick={() => keys.more(group)}>
      +
    </button>
  );
}

/** What is given once of a part, in the line of its title: figures as small inputs, choices as a list. */
/** `full`: with room to say what may be left out. */
export function HeadFields(props: SheetProps & { group: Placed; full?: boolean }) {
  const { group, document, preview, keys, full = false } = props;
  return (
    <div role="group" aria-label={group.title} data-group={group.own} className="flex flex-wrap items-center gap-x-4 gap-y-1">
      {group.fields.map((field) => {
        const path = pathOf(group, field, null);
        const faults = faultsUnder(preview?.faults ?? [], path);
        return (
          <div key={field.name} className="flex flex-wrap items-center gap-2">
            {field.kind !== "choice" && (
              <span className="sub font-semibold">
                {field.label}
                {unitOf(field, document) && `, ${unitOf(field, document)}`}
                {full && field.optional && <span className="font-normal"> (if known)</span>}
              </span>
            )}
            {field.kind === "choice" ? (
              <select className="field !min-h-[44px] !w-[210px] !py-0 desk:!min-h-[40px]" aria-label={field.label} value={textAt(document, path)} onChange={(event) => keys.type(path, event.target.value)}>
                <option value="">{field.label}: not given</option>
                {field.options.map((option) => (
                  <option key={option.value} value={option.value}>
                    {option.label}
                  </option>
                ))}
              </select>
            ) : (
              <span className={field.kind === "text" ? "w-[150px]" : "w-[92px]"}>
                <FieldInput {...props} field={field} row={null} />
              </span>
            )}
            {faults.map((each) => (
              <FaultLine key={each.path} id={`${spotId(path)}-fault`} fault={each} beside />
            ))}
          </div>
        );
      })}
    </div>
  );
}

/** A few figures given once: title, names and inputs in one line. */
function Line(props: GroupProps) {
  return (
    <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
      <h2>{props.group.title}</h2>
      <HeadFields {...props} full />
      <Beside {...props} />
    </div>
  );
}

function More({ group, rows, keys }: GroupProps & { rows: number }) {
  if (!group.rows || !group.more || rows >= group.most) return null;
  return (
    <button className="link desk:!min-h-[28px] no-print" onClick={() => keys.more(group)}>
      {group.more}
    </button>
  );
}

/** Fields given once: choices as touches, figures as number fields. */
function Fields(props: GroupProps) {
  const { group, document, preview, keys } = props;
  return (
    <div className="flex flex-wrap gap-x-6 gap-y-4">
      {group.fields.map((field) => {
        const path = pathOf(group, field, null);
        return (
          <div key={field.name} className={field.kind === "choice" ? "grid w-full gap-2 desk:flex desk:flex-wrap desk:items-center desk:justify-between" : "grid w-full max-w-[260px] gap-1"}>
            {field.kind !== "switch" && <FieldName field={field} document={document} />}
            {field.kind === "choice" || field.kind === "switch" ? <Entered field={field} value={valueAt(document, path)} onChange={(value) => keys.type(path, value)} /> : <FieldInput {...props} field={field} row={null} />}
            {faultsUnder(preview?.faults ?? [], path).map((each) => (
              <FaultLine key={each.path} id={`${spotId(path)}-fault`} fault={each} beside />
            ))}
          </div>
        );
      })}
    </div>
  );
}

/** A choice or a switch; a switch that nobody touched is on. */
export function Entered({ field, value, onChange }: { field: Field; value: unknown; onChange: (value: unknown) => void }) {
  if (field.kind === "choice") return <Choice label={field.label} value={String(value ?? "")} options={field.options} onChange={onChange} />;
  return (
    <label className="flex min-h-[48px] items-center gap-3">
      <input type="checkbox" className="size-6 accent-[var(--color-ink)]" checked={value !== false} onChange={(event) => onChange(event.target.checked)} />
      {field.label}
    </label>
  );
}

export function FieldName({ field, document }: { field: Field; document: CheckDocument }) {
  const unit = unitOf(field, document);
  return (
    <span className="sub block font-semibold leading-tight">
      {field.label}
      {unit && `,\u00a0${unit}`}
      {field.optional && !field.prefilled && <span className="font-normal"> (if known)</span>}
    </span>
  );
}

function FieldInput({ group, field, row, document, preview, keys, placeholder }: GroupProps & { field: Field; row: number | null; placeholder?: string | undefined }) {
  const path = pathOf(group, field, row);
  const spot = { path, field, group, row };
  const entry = group.entry ? `${group.entry.each.noun} ${group.entry.index + 1}, ` : "";
  const where = row === null ? group.title : `${group.title}, ${row + 1}`;
  return (
    <NumberField
      id={spotId(path)}
      label={`${entry}${where}: ${field.label}`}
      narrow
      text={field.kind === "text"}
      placeholder={placeholder}
      value={field.prefilled ? written(textAt(document, path)) : textAt(document, path)}
      faults={faultsUnder(preview?.faults ?? [], path)}
      onType={(value) => keys.type(path, value)}
      onKey={(key) => keys.key(spot, key)}
      onHere={() => keys.here(spot)}
    />
  );
}

/** One row: its fields side by side, named above the first. */
function RowFields(props: GroupProps & { row: number }) {
  const { row, group, document, preview, compact = false } = props;
  const narrow = useNarrow();
  const path = `${group.path}[${row}]`;
  const outlier = preview?.progress.outlier?.path.startsWith(path) ? preview.progress.outlier : null;
  const title = group.row_titles[row];
  const rows = rowsOf(document, group);
  const repeat = group.repeats ? repeatOf(rows[row]) : 1;
  const begins = repeat > 1 && (row === 0 || repeatOf(rows[row - 1]) !== repeat);
  return (
    <div data-row={path} data-outlier={outlier ? true : undefined} className="grid gap-1 data-[outlier]:rounded-md data-[outlier]:outline-3 data-[outlier]:outline-offset-4 data-[outlier]:outline-coral">
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
  return row === 0 || begins || Boolean(group.row_titles[row] && !titlesBeside(group, narrow)) || (isTall(group, count) && row === Math.ceil(count / 2));
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
  const columns = [title ? `${longestTitle(group) * 0.5 + (longestTitle(group) > 9 ? 0.6 : 0)}em` : "", widths, removable ? `${across}px` : ""].filter(Boolean).join(" ");
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
            <FieldInput {...props} field={field} row={row} placeholder={(compact || isFewPairs(group, countOf(document, group))) && row === 0 ? unitOf(field, document) : undefined} />
          </div>
        ))}
        {removable && (
          <button className="sub min-h-[52px] text-[22px] leading-none desk:min-h-[40px] no-print" aria-label={`Remove row ${row + 1}, ${group.title}`} onClick={() => onRemove(group, row)}>
            ×
          </button>
        )}
      </div>
    </>
  );
}

/** Readings of one place, side by side. */
function PlainList(props: GroupProps) {
  const { group, document, preview, compact = false } = props;
  const field = group.fields[0] as Field;
  const outlier = outlierOf(props);
  const columns = compact ? "grid-cols-[repeat(auto-fit,minmax(96px,1fr))]" : "grid-cols-3 tab:grid-cols-5";
  return (
    <div className="grid gap-1">
      <div className={`grid gap-2 ${columns}`}>
        {Array.from({ length: countOf(document, group) }, (_, row) => (
          <div key={row} data-outlier={outlier?.path === `${group.path}[${row}]` || undefined} className="min-w-0 data-[outlier]:rounded-md data-[outlier]:outline-3 data-[outlier]:outline-coral">
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

const outlierOf = ({ group, preview }: GroupProps) => (preview?.progress.outlier?.path.startsWith(`${group.path}[`) ? preview.progress.outlier : null);

/** A reading is struck visibly and put back: the one typed last, or the one that is an outlier. */
function Struck(props: GroupProps) {
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
        <button data-strike className="min-h-[48px] underline underline-offset-4" aria-label={`Strike ${value}, ${group.title}`} onClick={() => keys.strike(group, here)}>
          Strike <span className="font-mono">{value}</span>
        </button>
      )}
      {struck.map((each, i) => (
        <button key={`${String(each)}-${i}`} data-struck className="sub min-h-[48px] font-mono line-through" aria-label={`${String(each)} is struck: restore it, ${group.title}`} onClick={() => keys.putBack(group, i)}>
          {String(each)}
        </button>
      ))}
    </>
  );
}

/** What the core says beside these readings: their spread, the distance the wires show. */
function Beside({ group, preview }: GroupProps) {
  const parent = group.own.slice(0, group.own.lastIndexOf("."));
  const notes = (preview?.progress.notes ?? []).filter((note) => note.path === group.own || (group.rows && note.path === parent));
  return notes.map((note) => (
    <p key={note.text} className="sub" data-note={note.path}>
      {note.text}
    </p>
  ));
}
