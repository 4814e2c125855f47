// One group of a sheet: fields given once, rows of fields, or readings of one place side by side.
import type { CSSProperties } from "react";
import { type Field, type Placed, countOf, faultsUnder, pathOf, filledInstead, unitOf } from "../../documents/form";
import { spotId, textAt, valueAt } from "../../documents/paths";
import { FaultLine } from "../../ui/parts";
import { Entered, FieldName, FieldInput } from "./GroupInputs";
import { named, isFewPairs, isTall } from "./groupLayout";
import { PlainList, RowFields, Struck } from "./GroupRows";
import type { GroupProps, SheetProps } from "./sheetProps";

export function GroupFields(props: GroupProps) {
  const { group, document, compact = false } = props;
  const plain = group.rows && group.fields.length === 1 && !group.fields[0]?.name;
  if (!group.rows && compact) return <Compact {...props} />;
  if (!group.rows && group.fields.every((field) => field.kind !== "choice" && field.kind !== "switch"))
    return <Line {...props} />;
  const count = countOf(document, group);
  const face = compact && group.rows && !plain;
  const pairs = !compact && isFewPairs(group, count);
  const tall = !compact && isTall(group, count);
  return (
    <div
      role="group"
      aria-label={group.title}
      data-group={group.own}
      data-by-instead={group.byInstead || undefined}
      className={`grid content-start ${compact ? "min-w-0 gap-[6px]" : "gap-3 desk:gap-2"} ${group.byInstead ? "col-span-2" : ""}`}
    >
      <div
        className={`flex items-baseline justify-between gap-x-6 ${face ? "max-desk:flex-wrap desk:gap-x-2" : "flex-wrap"}`}
      >
        {compact ? (
          <span className="sub block font-semibold leading-tight">
            {face ? <FaceTitle group={group} /> : named(group, document)}
          </span>
        ) : (
          group.title !== group.page && <h2>{pairs ? <FaceTitle group={group} /> : group.title}</h2>
        )}
        {plain && !compact && <More {...props} rows={count} />}
        {face && <MoreSign {...props} rows={count} />}
        {group.note && <p className="sub w-full desk:hidden">{group.note}</p>}
      </div>
      {!group.rows && <Fields {...props} />}
      {plain && <PlainList {...props} />}
      {group.rows && !plain && (
        <div
          className={`grid ${tall ? "gap-x-4" : "gap-x-6"} ${compact ? "gap-y-1" : "gap-y-2 desk:gap-y-1"} ${pairs ? "desk:grid-cols-2" : ""} ${tall ? "desk:grid-flow-col desk:grid-cols-2 desk:[grid-template-rows:repeat(var(--half),auto)]" : ""}`}
          style={{ "--half": Math.ceil(count / 2) } as CSSProperties}
        >
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

/** One field of an entry's part, in the narrow column before its readings. */
function Compact(props: GroupProps) {
  const { group, document, form, preview } = props;
  const field = group.fields[0] as Field;
  const path = pathOf(group, field, null);
  const instead = filledInstead(form, group, field);
  return (
    <div
      className={`min-w-0 content-start grid gap-[6px] ${instead ? "order-2 col-span-2 grid-cols-[auto_minmax(0,1fr)] items-center pt-1" : ""}`}
      data-group={group.own}
      data-prefilled={(field.prefilled && !instead) || undefined}
    >
      <span className="sub block font-semibold leading-tight">{named(group, document)}</span>
      <div>
        <FieldInput
          {...props}
          field={field}
          row={null}
          placeholder={instead?.instead ? `by ${instead.instead.title.toLowerCase()}` : undefined}
        />
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
      <span className="font-normal">
        :{" "}
        {group.fields
          .filter((field) => !field.prefilled)
          .map((field) => field.label.toLowerCase())
          .join(", ")}
      </span>
    </>
  );
}

/** One more row, where there is no room for a line of its own. */
function MoreSign({ group, rows, keys }: GroupProps & { rows: number }) {
  if (!group.rows || !group.more || rows >= group.most) return null;
  return (
    <button
      className="hidden h-6 w-7 rounded text-[18px] leading-none font-semibold shadow-[inset_0_0_0_1.5px_var(--color-ink)] desk:block no-print"
      title={group.more}
      aria-label={`${group.more}, ${group.title}`}
      onClick={() => keys.more(group)}
    >
      +
    </button>
  );
}

/** What is given once of a part, in the line of its title: figures as small inputs, choices as a list. */
/** `full`: with room to say what may be left out. */
export function HeadFields(props: SheetProps & { group: Placed; full?: boolean }) {
  const { group, document, preview, keys, full = false } = props;
  return (
    <div
      role="group"
      aria-label={group.title}
      data-group={group.own}
      className="flex flex-wrap items-center gap-x-4 gap-y-1"
    >
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
              <select
                className="field !min-h-[44px] !w-[210px] !py-0 desk:!min-h-[40px]"
                aria-label={field.label}
                value={textAt(document, path)}
                onChange={(event) => keys.type(path, event.target.value)}
              >
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
          <div
            key={field.name}
            className={
              field.kind === "choice"
                ? "grid w-full gap-2 desk:flex desk:flex-wrap desk:items-center desk:justify-between"
                : "grid w-full max-w-[260px] gap-1"
            }
          >
            {field.kind !== "switch" && <FieldName field={field} document={document} />}
            {field.kind === "choice" || field.kind === "switch" ? (
              <Entered field={field} value={valueAt(document, path)} onChange={(value) => keys.type(path, value)} />
            ) : (
              <FieldInput {...props} field={field} row={null} />
            )}
            {faultsUnder(preview?.faults ?? [], path).map((each) => (
              <FaultLine key={each.path} id={`${spotId(path)}-fault`} fault={each} beside />
            ))}
          </div>
        );
      })}
    </div>
  );
}

/** What the core says beside these readings: their spread, the distance the wires show. */
function Beside({ group, preview }: GroupProps) {
  const parent = group.own.slice(0, group.own.lastIndexOf("."));
  const notes = (preview?.progress.notes ?? []).filter(
    (note) => note.path === group.own || (group.rows && note.path === parent),
  );
  return notes.map((note) => (
    <p key={note.text} className="sub" data-note={note.path}>
      {note.text}
    </p>
  ));
}
