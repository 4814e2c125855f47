// What comes of the table: how much is read, what is missing or wrong and in which line, the first lines as they are read.
import type { ColumnLook, ColumnMap } from "../../engine";

type Props = { look: ColumnLook; busy: boolean; label: string; onMap: (map: ColumnMap) => void; onOpen: () => void };

export function WhatIsRead({ look, busy, label, onMap, onOpen }: Props) {
  return (
    <section className="card grid gap-3 p-4 tab:p-5" aria-label="What is read">
      <h2 data-readings={look.readings}>
        {look.readings
          ? `${look.readings} ${look.readings === 1 ? "reading" : "readings"} in ${look.lines} ${look.lines === 1 ? "line" : "lines"}`
          : "Nothing is read yet"}
      </h2>
      {look.messages.map((message) => (
        <p key={message.text} className="font-semibold" data-message={message.code}>
          {message.text}
        </p>
      ))}
      <Faults look={look} onMap={onMap} />
      {look.empty_lines.length > 0 && look.readings > 0 && (
        <p className="sub">Without a reading, not used: {lines(look.empty_lines)}.</p>
      )}
      {look.column_map.left_out.length > 0 && (
        <p className="sub">
          Left out: {lines(look.column_map.left_out)}.{" "}
          <button className="link" onClick={() => onMap({ ...look.column_map, left_out: [] })}>
            Read all lines
          </button>
        </p>
      )}
      <button className="btn now site" disabled={look.text === null || busy} onClick={onOpen}>
        {label}
      </button>
      {look.read.length > 0 && <FirstLines look={look} />}
    </section>
  );
}

const lines = (numbers: number[]): string => `${numbers.length === 1 ? "line" : "lines"} ${numbers.join(", ")}`;

function Faults({ look, onMap }: Pick<Props, "look" | "onMap">) {
  const map = look.column_map;
  const bad = [...new Set(look.faults.map((fault) => fault.line).filter((line) => line > 0))];
  if (!look.faults.length) return null;
  return (
    <div className="grid gap-2" role="alert">
      <ul className="m-0 grid list-none gap-1 p-0">
        {look.faults.slice(0, 8).map((fault) => (
          <li key={`${fault.where}${fault.given}`} className="fault" data-fault-line={fault.line}>
            {fault.where.charAt(0).toUpperCase()}
            {fault.where.slice(1)}: <span className="font-mono">{fault.given}</span>. Wanted: {fault.wanted}.
          </li>
        ))}
      </ul>
      {look.faults.length > 8 && <p className="sub">{look.faults.length - 8} more of the kind.</p>}
      {bad.length > 0 && (
        <button
          className="btn justify-self-start"
          onClick={() => onMap({ ...map, left_out: [...new Set([...map.left_out, ...bad])].sort((a, b) => a - b) })}
        >
          Leave out {lines(bad.slice(0, 6))}
          {bad.length > 6 ? ` and ${bad.length - 6} more` : ""}
        </button>
      )}
    </div>
  );
}

function FirstLines({ look }: { look: ColumnLook }) {
  return (
    <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="The first lines as they are read">
      <table className="w-full border-collapse text-left">
        <thead>
          <tr>
            <th className="sub py-1 pr-3 font-normal">Line</th>
            {look.headings.map((heading) => (
              <th key={heading} className="py-1 pr-3 font-semibold">
                {heading}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {look.read.map((each, i) => (
            <tr key={i} className="border-t border-line">
              <td className="sub py-1 pr-3 font-mono">{each.line}</td>
              {each.cells.map((cell, place) => (
                <td key={place} className="py-1 pr-3 font-mono whitespace-nowrap">
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
