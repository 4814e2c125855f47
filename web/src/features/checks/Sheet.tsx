// The field sheet of a check: blocks and groups in the order in which they are read, each with what is wrong or an outlier.
import type { CheckDocument } from "../../documents/draft";
import { type Block, type Placed, blocksOf, faultsUnder, pathOf, rowsOf } from "../../documents/form";
import { listAt } from "../../documents/paths";
import { FaultLine } from "../../ui/parts";
import { capital, ordinal } from "../../ui/words";
import { GroupFields, HeadFields } from "./GroupFields";
import { Pager } from "./Pager";
import type { SheetProps } from "./sheetProps";

export function Sheet(props: SheetProps) {
  const { document, preview, keys } = props;
  const paged = props.pages.all.length > 1;
  const form = (paged ? (props.pages.all[props.pages.at]?.groups ?? []) : props.form).filter(
    (group) => !group.setting && !group.before,
  );
  const faults = preview?.faults ?? [];
  const elsewhere = faults.filter(
    (fault) => !form.some((group) => groupPaths(document, group).some((path) => faultsUnder([fault], path).length)),
  );
  const blocks = blocksOf(form);
  const lists = [
    ...new Map(
      form.flatMap((group) => (group.entry?.each.more ? [[group.entry.list, group.entry] as const] : [])),
    ).values(),
  ];
  return (
    <section className="card grid gap-5 p-4 desk:gap-2 desk:py-3" aria-label="Field sheet">
      <Pager pages={props.pages} faults={faults} />
      {blocks.map((block, i) => (
        <BlockShown key={i} block={block} {...props} form={form} />
      ))}
      {elsewhere.map((each) => (
        <FaultLine key={each.path} fault={each} />
      ))}
      <div className="flex flex-wrap items-center justify-between gap-x-6 gap-y-2 no-print">
        <p className="sub hidden desk:[@media(min-height:860px)]:block">
          <kbd>Enter</kbd> next as you read &nbsp; <kbd>;</kbd> one more here &nbsp; <kbd>=</kbd> same again
          {form.some((group) => group.instead) && (
            <>
              {" "}
              &nbsp; <kbd>*</kbd> {form.find((group) => group.instead)?.instead?.title.toLowerCase()}
            </>
          )}
        </p>
        <Instead {...props} form={form} />
        {lists
          .filter((entry) => listAt(document, entry.list).length < entry.each.most)
          .map((entry) => (
            <button key={entry.list} className="link" onClick={() => keys.addEntry(entry)}>
              {entry.each.more}
            </button>
          ))}
      </div>
    </section>
  );
}

/** Other readings instead: three wires for single ones; where something was read already, only where one types now. */
function Instead({ form, at, keys }: SheetProps) {
  const here =
    form.find((group) => group.instead && group.own === at?.group.own) ?? form.find((group) => group.instead);
  if (!here?.instead) return null;
  return (
    <button className="link" onClick={() => keys.toggle(here)} data-instead={here.byInstead}>
      {here.byInstead ? "Single readings" : here.instead.title}
    </button>
  );
}

const groupPaths = (document: CheckDocument, group: Placed): string[] =>
  group.rows
    ? [group.own, ...rowsOf(document, group).map((_, i) => `${group.path}[${i}]`)]
    : group.fields.map((field) => pathOf(group, field, null));

/** "First target, face left" below the head "First target, level" is "Face left". */
function withoutPart(title: string, head: string, page: string): string {
  if (page && title.startsWith(`${page}, `)) return capital(title.slice(page.length + 2));
  const [first = "", ...rest] = title.split(", ");
  return rest.length && head.startsWith(first) ? capital(rest.join(", ")) : title;
}

/** One part of a list with its groups, side by side where they are alike; or a group that stands on its own. */
function BlockShown({ block, ...props }: SheetProps & { block: Block }) {
  const { entry, head, columns } = block;
  const groups = (column: Placed[], compact: boolean) =>
    column.map((group) => <GroupFields key={group.own + group.title} group={group} compact={compact} {...props} />);
  if (!entry && columns.length < 2) return <>{groups([...head, ...columns.flat()], false)}</>;
  const title = entry ? `${capital(ordinal(entry.index))} ${entry.each.noun}` : (head[0]?.title ?? "");
  return (
    <div
      data-entry={entry?.index}
      className="grid gap-x-4 gap-y-2 border-t border-line pt-3 desk:pt-2 first:border-0 first:pt-0"
    >
      <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 empty:hidden">
        {title && <h2>{title}</h2>}
        {head.map((group) => (
          <HeadFields key={group.own} group={group} {...props} />
        ))}
        {entry && listAt(props.document, entry.list).length > entry.each.fewest && (
          <button
            className="sub min-h-[48px] underline underline-offset-4 no-print"
            onClick={() => props.onRemoveEntry(entry)}
          >
            Remove
          </button>
        )}
      </div>
      {columns.length < 2 ? (
        groups(columns[0] ?? [], false)
      ) : (
        <div className="grid gap-4 tab:grid-cols-2">
          {columns.map((column, i) => (
            <div
              key={i}
              className={`min-w-0 content-start ${column.length > 1 ? "grid grid-cols-[104px_minmax(0,1fr)] gap-x-3 gap-y-1" : ""}`}
              data-column={column[0]?.own}
            >
              {groups(
                column.map((group) => ({ ...group, title: withoutPart(group.title, title, group.page) })),
                true,
              )}
            </div>
          ))}
        </div>
      )}
    </div>
  );
}
