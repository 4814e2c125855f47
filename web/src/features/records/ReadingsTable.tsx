// The readings of a check as they were typed, to the letter, group by group.
import { useQuery } from "@tanstack/react-query";
import { Fragment } from "react";
import type { Kind } from "../../api/client";
import { fromFile } from "../../engine";
import type { CheckDocument } from "../../documents/draft";
import {
  type Block,
  type Field,
  type Placed,
  blocksOf,
  formOf,
  pathOf,
  repeatOf,
  rowsOf,
  unitOf,
} from "../../documents/form";
import { listAt, textAt } from "../../documents/paths";
import { written } from "../../api/writing";
import { capital, lowered, ordinal } from "../../ui/words";

type Props = { document: CheckDocument; setAside: string[] };

export function ReadingsTable({ id, document: stored, kind, setAside }: Props & { id: string; kind: Kind }) {
  // Plain numbers of a record that came from elsewhere are metres whatever its unit: the core writes them as typed.
  const typed = useQuery({
    queryKey: ["typed", id],
    queryFn: () => fromFile(stored),
    staleTime: Infinity,
    networkMode: "always",
  });
  const document = typed.data ?? stored;
  return (
    <section className="card grid gap-4 overflow-x-auto p-5" aria-label="Readings">
      <h2>Readings as typed</h2>
      {blocksOf(formOf(kind, document)).map((block, i) => (
        <BlockShown key={i} block={block} document={document} setAside={setAside} />
      ))}
      {document.remark && <p>{document.remark}</p>}
      <p className="sub">{circumstances(kind, document)}</p>
      <p className="sub empty:hidden" data-checked-off>
        {checkedOff(kind, document)}
      </p>
    </section>
  );
}

function BlockShown({ block: { entry, head, columns }, ...props }: Props & { block: Block }) {
  const groups = (column: Placed[]) =>
    column.map((group) =>
      group.rows ? (
        <Rows key={group.path} group={group} {...props} />
      ) : (
        <Entered key={group.path + group.title} group={group} {...props} />
      ),
    );
  if (!entry && columns.length < 2) return <>{groups([...head, ...columns.flat()])}</>;
  return (
    <div className="grid gap-2 border-t border-line pt-3" data-entry={entry?.index}>
      <h3 className="font-semibold">
        {entry ? `${capital(ordinal(entry.index))} ${entry.each.noun}` : head[0]?.title}
      </h3>
      {groups(head)}
      <div className={columns.length > 1 ? "grid gap-4 tab:grid-cols-2" : "grid gap-4"}>
        {columns.map((column, i) => (
          <div key={i} className="grid content-start gap-1">
            {groups(column)}
          </div>
        ))}
      </div>
    </div>
  );
}

function Entered({ group, document }: Props & { group: Placed }) {
  const answer = group.fields
    .map((field) => ({ field, text: textAt(document, pathOf(group, field, null)) }))
    .filter((each) => each.text && each.field.kind !== "switch");
  if (!answer.length) return null;
  return (
    <dl aria-label={group.title} className="m-0 grid grid-cols-[fit-content(70%)_minmax(0,1fr)] gap-x-4 gap-y-1">
      {answer.map(({ field, text }) => (
        <div key={field.name} className="contents">
          <dt className="sub">{group.entry && answer.length === 1 ? group.title : field.label}</dt>
          <dd className="m-0">
            <span className={field.kind === "choice" ? "" : "font-mono"}>
              {field.options.find((option) => option.value === text)?.label ?? text}
            </span>{" "}
            {unitOf(field, document)}
          </dd>
        </div>
      ))}
    </dl>
  );
}

function Rows({ group, document, setAside }: Props & { group: Placed }) {
  const rows = rowsOf(document, group);
  if (!rows.length) return null;
  if (group.fields.length === 1) return <Plain group={group} document={document} setAside={setAside} />;
  return (
    <table className="w-full border-collapse text-left">
      <caption className="pb-1 text-left font-semibold">{group.title}</caption>
      <thead>
        <tr className="sub border-b-2 border-ink">
          {group.fields.map((field) => (
            <th key={field.name} className="py-1 pr-3 font-semibold">
              {field.label}
              {unitOf(field, document) && `, ${unitOf(field, document)}`}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, i) => (
          <Fragment key={i}>
            {group.repeats && repeatOf(row) > 1 && repeatOf(rows[i - 1]) !== repeatOf(row) && (
              <tr>
                <th colSpan={group.fields.length} scope="rowgroup" className="pt-3 font-semibold">
                  Repeat {repeatOf(row)}
                </th>
              </tr>
            )}
            <tr className="border-b border-line">
              {group.fields.map((field, k) => (
                <td key={field.name} className="py-2 pr-3 font-mono">
                  {textAt(document, pathOf(group, field, i))}
                  {k === 0 && setAside.includes(`${group.path}[${i}]`) && <b className="font-sans"> set aside</b>}
                </td>
              ))}
            </tr>
          </Fragment>
        ))}
      </tbody>
    </table>
  );
}

/** Readings of one place in a line, with those that were set aside or struck. */
function Plain({ group, document, setAside }: Props & { group: Placed }) {
  const field = group.fields[0] as Field;
  return (
    <p data-readings={group.path}>
      <span className="sub">{group.title}: </span>
      {rowsOf(document, group).map((_, i) => {
        const path = pathOf(group, field, i);
        return (
          <span key={i} className="font-mono">
            {textAt(document, path)}
            {setAside.includes(path) && <b className="font-sans"> set aside</b>}{" "}
          </span>
        );
      })}
      {group.struck &&
        listAt(document, group.struck).map((each, i) => (
          <span key={`s${i}`} className="sub font-mono line-through">
            {String(each)}{" "}
          </span>
        ))}
      <span className="sub">{unitOf(field, document)}</span>
    </p>
  );
}

/** What was ticked off, in its own words. */
function checkedOff(kind: Kind, document: CheckDocument): string {
  const ticked = kind.check_off.filter((item) => document.checked_off?.includes(item.code)).map((item) => item.text);
  return ticked.length ? `Checked off: ${ticked.join(" ")}` : "";
}

/** The circumstances as they were given, in a sentence: "Conditions: warm-up 12 min, wind calm." */
function circumstances(kind: Kind, document: CheckDocument): string {
  const given = new Map(Object.entries(document.conditions ?? {}));
  const parts = kind.conditions
    .filter(({ name }) => given.has(name))
    .map(({ name, label, unit, options }) => {
      const text = String(given.get(name));
      return `${lowered(label)} ${lowered(options.find((option) => option.value === text)?.label ?? `${written(text)} ${unit}`)}`;
    });
  return parts.length ? `Conditions: ${parts.join(", ")}.` : "";
}
