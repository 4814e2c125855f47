// The field sheet of a check of rows: groups in the order in which they are read, each row with what is wrong or apart.
import type { Fault, Preview } from "../../api/client";
import type { CheckDocument } from "../../sheet/draft";
import { type Field, type Group, type Way, faultsUnder, pathOf, roundOf, rowsOf, spotId, textAt, unitOf } from "../../sheet/rows";
import { Choice, FaultLine } from "../../ui/parts";
import { Well } from "../../ui/Well";
import { useNarrow } from "../../ui/useNarrow";
import type { RowKeys } from "./useRowKeys";

type Props = { document: CheckDocument; way: Way; said: Preview | null; keys: RowKeys; onRemove: (group: Group, row: number) => void };

export function RowsSheet({ document, way, said, keys, onRemove }: Props) {
  const faults = said?.faults ?? [];
  const elsewhere = faults.filter((one) => !way.groups.some((group) => groupPaths(document, group).some((path) => faultsUnder([one], path).length)));
  return (
    <section className="card grid gap-6 p-4 tab:p-5" aria-label="Field sheet">
      {way.groups.map((group) => (
        <GroupFields key={group.path + group.title} group={group} document={document} faults={faults} said={said} keys={keys} onRemove={onRemove} />
      ))}
      {elsewhere.map((one) => (
        <FaultLine key={one.path} fault={one} />
      ))}
      <p className="sub hidden desk:block no-print">
        <kbd>Enter</kbd> next as you read &nbsp; <kbd>;</kbd> one more here &nbsp; <kbd>=</kbd> same as above
      </p>
    </section>
  );
}

const groupPaths = (document: CheckDocument, group: Group): string[] =>
  group.rows ? rowsOf(document, group).map((_, i) => `${group.path}[${i}]`) : group.fields.map((field) => pathOf(group, field, null));

type GroupProps = { group: Group; document: CheckDocument; faults: Fault[]; said: Preview | null; keys: RowKeys; onRemove: Props["onRemove"] };

function GroupFields({ group, document, faults, said, keys, onRemove }: GroupProps) {
  const rows = group.rows ? rowsOf(document, group) : [];
  const plain = group.rows && group.fields.length === 1 && !group.fields[0]?.name;
  return (
    <div role="group" aria-label={group.title} data-group={group.path} className="grid gap-3">
      <div className="flex flex-wrap items-baseline justify-between gap-x-6">
        <h2>{group.title}</h2>
        {plain && <More group={group} rows={rows.length} keys={keys} />}
        {group.note && <p className="sub w-full">{group.note}</p>}
      </div>
      {!group.rows && <Fields group={group} document={document} faults={faults} keys={keys} />}
      {plain && <PlainList group={group} document={document} faults={faults} said={said} keys={keys} />}
      {group.rows && !plain && rows.map((_, row) => <Row key={row} row={row} group={group} document={document} faults={faults} said={said} keys={keys} onRemove={rows.length > 2 ? onRemove : null} />)}
      {!plain && <More group={group} rows={rows.length} keys={keys} />}
    </div>
  );
}

function More({ group, rows, keys }: { group: Group; rows: number; keys: RowKeys }) {
  if (!group.rows || !group.more || rows >= group.most) return null;
  return (
    <button className="link justify-self-start no-print" onClick={() => keys.more(group)}>
      {group.more}
    </button>
  );
}

/** Fields told once: choices as touches, figures as wells. */
function Fields({ group, document, faults, keys }: Omit<GroupProps, "said" | "onRemove">) {
  return (
    <div className="flex flex-wrap gap-x-6 gap-y-4">
      {group.fields.map((field) => {
        const path = pathOf(group, field, null);
        return (
          <div key={field.name} className={field.kind === "choice" ? "grid w-full gap-2" : "grid w-full max-w-[260px] gap-1"}>
            <FieldName field={field} document={document} />
            {field.kind === "choice" ? (
              <Choice label={field.label} value={textAt(document, path)} options={field.options} onChange={(value) => keys.type(path, value)} />
            ) : (
              <FieldWell group={group} field={field} row={null} document={document} faults={faults} keys={keys} />
            )}
            {faultsUnder(faults, path).map((one) => (
              <FaultLine key={one.path} id={`${spotId(path)}-fault`} fault={one} beside />
            ))}
          </div>
        );
      })}
    </div>
  );
}

function FieldName({ field, document }: { field: Field; document: CheckDocument }) {
  const unit = unitOf(field, document);
  return (
    <span className="sub block font-[600] leading-tight">
      {field.label}
      {unit && `, ${unit}`}
      {field.optional && <span className="font-[420]"> (if known)</span>}
    </span>
  );
}

function FieldWell({ group, field, row, document, faults, keys }: { group: Group; field: Field; row: number | null; document: CheckDocument; faults: Fault[]; keys: RowKeys }) {
  const path = pathOf(group, field, row);
  const spot = { path, field, group, row };
  const where = row === null ? group.title : `${group.title}, ${row + 1}`;
  return (
    <Well
      id={spotId(path)}
      label={`${where}: ${field.label}`}
      narrow
      value={textAt(document, path)}
      faults={faultsUnder(faults, path)}
      onType={(value) => keys.type(path, value)}
      onKey={(key) => keys.key(spot, key)}
      onHere={() => keys.here(spot)}
    />
  );
}

/** One row: its fields side by side, named above the first. */
function Row({ row, group, document, faults, said, keys, onRemove }: Omit<GroupProps, "onRemove"> & { row: number; onRemove: Props["onRemove"] | null }) {
  const path = `${group.path}[${row}]`;
  const apart = said?.partial.apart;
  const mine = apart?.path.startsWith(path) ? apart : null;
  const title = group.row_titles[row];
  // On a phone what the way has filled in stands above the wells that are typed, small; beside them it would cut them.
  const narrow = useNarrow();
  const given = group.fields.filter((field) => field.given);
  const typed = group.fields.filter((field) => !field.given);
  const above = narrow && given.length > 0 && typed.length > 1;
  const beside = above ? typed : group.fields;
  const rows = rowsOf(document, group);
  const round = group.rounds ? roundOf(rows[row]) : 1;
  const begins = round > 1 && (row === 0 || roundOf(rows[row - 1]) !== round);
  return (
    <div data-row={path} data-apart={mine ? true : undefined} className="grid gap-1 data-[apart]:rounded-md data-[apart]:outline-3 data-[apart]:outline-offset-4 data-[apart]:outline-coral">
      {begins && <h3 className="border-t border-line pt-3 font-[640]">Round {round}</h3>}
      {title && <span className="font-[600]">{title}</span>}
      {above && (
        <div className="flex flex-wrap gap-x-4 gap-y-1">
          {given.map((field) => (
            <div key={field.name} className="grid grid-cols-[auto_96px] items-center gap-2" data-from-way>
              <FieldName field={field} document={document} />
              <FieldWell group={group} field={field} row={row} document={document} faults={faults} keys={keys} />
            </div>
          ))}
        </div>
      )}
      <div className="grid items-end gap-x-3 gap-y-2" style={{ gridTemplateColumns: `${beside.map((field) => (field.given ? "minmax(0, 104px)" : "minmax(0, 1fr)")).join(" ")} ${narrow ? 36 : 48}px` }}>
        {beside.map((field) => (
          <div key={field.name} className="min-w-0" data-from-way={field.given || undefined}>
            {(row === 0 || begins || title || above) && <FieldName field={field} document={document} />}
            <FieldWell group={group} field={field} row={row} document={document} faults={faults} keys={keys} />
          </div>
        ))}
        {onRemove ? (
          <button className="sub min-h-[56px] text-[22px] no-print" aria-label={`Remove row ${row + 1}, ${group.title}`} onClick={() => onRemove(group, row)}>
            ×
          </button>
        ) : (
          <span />
        )}
      </div>
      {faultsUnder(faults, path).map((one) => (
        <FaultLine key={one.path} fault={one} />
      ))}
      {mine && <p className="fault">{mine.text}</p>}
    </div>
  );
}

/** Readings of one place, side by side. */
function PlainList({ group, document, faults, said, keys }: Omit<GroupProps, "onRemove">) {
  const field = group.fields[0] as Field;
  const apart = said?.partial.apart;
  const mine = apart?.path.startsWith(`${group.path}[`) ? apart : null;
  return (
    <div className="grid gap-1">
      <div className="grid grid-cols-3 gap-2 tab:grid-cols-5">
        {rowsOf(document, group).map((_, row) => (
          <div key={row} data-apart={mine?.path === `${group.path}[${row}]` || undefined} className="data-[apart]:rounded-md data-[apart]:outline-3 data-[apart]:outline-coral">
            <FieldWell group={group} field={field} row={row} document={document} faults={faults} keys={keys} />
          </div>
        ))}
      </div>
      {faultsUnder(faults, group.path).map((one) => (
        <FaultLine key={one.path} fault={one} />
      ))}
      {mine && <p className="fault">{mine.text}</p>}
    </div>
  );
}
