// The readings of a check of rows as they were typed, to the letter, group by group.
import { Fragment } from "react";
import type { Kind } from "../../api/client";
import type { CheckDocument } from "../../sheet/draft";
import { type Group, type Way, fittingWay, pathOf, roundOf, rowsFromFile, rowsOf, textAt, unitOf } from "../../sheet/rows";
import { weather } from "./ReadingsTable";

export function RowsTable({ document: stored, kind, setAside }: { document: CheckDocument; kind: Kind; setAside: string[] }) {
  const document = rowsFromFile(stored);
  const way = fittingWay(kind, document) as Way;
  return (
    <section className="card grid gap-4 overflow-x-auto p-5" aria-label="Readings">
      <h2>Readings as typed</h2>
      {way.groups.map((group) => (group.rows ? <Rows key={group.path} group={group} document={document} setAside={setAside} /> : <Told key={group.path + group.title} group={group} document={document} />))}
      {document.remark && <p>{document.remark}</p>}
      <p className="sub">{weather(document)}</p>
    </section>
  );
}

function Told({ group, document }: { group: Group; document: CheckDocument }) {
  const told = group.fields.map((field) => ({ field, text: textAt(document, pathOf(group, field, null)) })).filter((one) => one.text);
  if (!told.length) return null;
  return (
    <dl aria-label={group.title} className="m-0 grid grid-cols-[auto_minmax(0,1fr)] gap-x-4 gap-y-1">
      {told.map(({ field, text }) => (
        <div key={field.name} className="contents">
          <dt className="sub">{field.label}</dt>
          <dd className="m-0">
            <span className={field.kind === "choice" ? "" : "font-mono"}>{field.options.find((one) => one.value === text)?.label ?? text}</span> {unitOf(field, document)}
          </dd>
        </div>
      ))}
    </dl>
  );
}

function Rows({ group, document, setAside }: { group: Group; document: CheckDocument; setAside: string[] }) {
  const rows = rowsOf(document, group);
  if (!rows.length) return null;
  if (group.fields.length === 1)
    return (
      <p>
        <span className="sub">{group.title}: </span>
        {rows.map((_, i) => {
          const path = pathOf(group, group.fields[0] as Group["fields"][number], i);
          return (
            <span key={i} className="font-mono">
              {textAt(document, path)}
              {setAside.includes(path) && <b className="font-sans"> set aside</b>}{" "}
            </span>
          );
        })}
      </p>
    );
  return (
    <table className="w-full border-collapse text-left">
      <caption className="pb-1 text-left font-[640]">{group.title}</caption>
      <thead>
        <tr className="sub border-b-2 border-ink">
          {group.fields.map((field) => (
            <th key={field.name} className="py-1 pr-3 font-[600]">
              {field.label}
              {unitOf(field, document) && `, ${unitOf(field, document)}`}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, i) => (
          <Fragment key={i}>
            {group.rounds && roundOf(row) > 1 && roundOf(rows[i - 1]) !== roundOf(row) && (
              <tr>
                <th colSpan={group.fields.length} scope="rowgroup" className="pt-3 font-[600]">
                  Round {roundOf(row)}
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
