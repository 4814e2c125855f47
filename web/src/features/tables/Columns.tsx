// The columns of the file, each with what stands in it first, what it is taken for, and its unit.
import type { ColumnLook, ColumnMap } from "../../engine";
import { UNITS as OF_SHEETS } from "../../ui/units";

/** Tables hold what a sheet is not typed in, too. */
const UNITS = [
  ...OF_SHEETS,
  { value: "mm", label: "Millimetres" },
  { value: "cm", label: "Centimetres" },
  { value: "in", label: "Inches" },
];

type Props = { look: ColumnLook; onMap: (map: ColumnMap) => void };
type Use = ColumnMap["columns"][number];
type Offered = ColumnLook["uses"][number];

const alike = (use: Use, offered: Offered): boolean =>
  use.field === offered.field &&
  JSON.stringify(Object.entries(use.given).sort()) === JSON.stringify(Object.entries(offered.given).sort());

export function Columns({ look, onMap }: Props) {
  const map = look.column_map;
  const put = (column: number, offered: Offered | undefined) => {
    const others = map.columns.filter((use) => use.column !== column);
    const before = map.columns.find((use) => use.column === column);
    const unit = offered?.kind === "length" ? before?.unit || map.columns.find((use) => use.unit)?.unit || "m" : "";
    const columns = offered
      ? [...others, { column, field: offered.field, given: offered.given, unit }].sort((a, b) => a.column - b.column)
      : others;
    onMap({ ...map, columns });
  };
  return (
    <ul className="m-0 grid list-none p-0">
      {look.file_columns.map((column) => {
        const use = map.columns.find((each) => each.column === column.column);
        const offered = use && look.uses.find((each) => alike(use, each));
        return (
          <li
            key={column.column}
            className="grid items-center gap-x-3 gap-y-2 border-t border-line py-2 tab:grid-cols-[minmax(0,1fr)_minmax(0,1.3fr)_112px]"
            data-column={column.column}
          >
            <div className="min-w-0">
              <b className="block truncate font-semibold">{column.heading}</b>
              <span className="sub block truncate font-mono">{column.first.join("   ") || "empty"}</span>
            </div>
            <select
              className="field"
              aria-label={`${column.heading} is`}
              value={offered?.key ?? ""}
              onChange={(event) =>
                put(
                  column.column,
                  look.uses.find((each) => each.key === event.target.value),
                )
              }
            >
              <option value="">Not used</option>
              {look.uses.map((each) => (
                <option key={each.key} value={each.key}>
                  {each.label}
                </option>
              ))}
            </select>
            <Unit
              use={use}
              offered={offered}
              heading={column.heading}
              angle={map.angle}
              onUnit={(unit) =>
                onMap({
                  ...map,
                  columns: map.columns.map((each) => (each.column === column.column ? { ...each, unit } : each)),
                })
              }
            />
            {offered?.kind === "choice" && (
              <Words look={look} field={offered.field} words={column.words} onMap={onMap} />
            )}
          </li>
        );
      })}
    </ul>
  );
}

const ANGLE_SIGNS: Record<string, string> = { dms: "° ′ ″", deg: "°", gon: "gon" };

function Unit({
  use,
  offered,
  heading,
  angle,
  onUnit,
}: {
  use: Use | undefined;
  offered: Offered | undefined;
  heading: string;
  angle: string;
  onUnit: (unit: string) => void;
}) {
  if (!use || !offered) return <span />;
  if (offered.kind !== "length")
    return <span className="sub pl-3">{offered.kind === "angle" ? ANGLE_SIGNS[angle] : offered.unit}</span>;
  return (
    <select
      className="field"
      aria-label={`${heading}: unit`}
      value={use.unit || "m"}
      onChange={(event) => onUnit(event.target.value)}
    >
      {UNITS.map((unit) => (
        <option key={unit.value} value={unit.value}>
          {unit.label}
        </option>
      ))}
    </select>
  );
}

/** What the file writes, and what it means: for a column that holds one of a few answers. */
function Words({ look, field, words, onMap }: Props & { field: string; words: string[] }) {
  const map = look.column_map;
  const options = look.fields.find((each) => each.field === field)?.options ?? [];
  const known = map.words[field] ?? {};
  return (
    <div className="flex flex-wrap gap-x-5 gap-y-2 tab:col-start-2 tab:col-end-4">
      {words.map((word) => (
        <label key={word} className="flex items-center gap-2">
          <span className="font-mono">{word}</span> is
          <select
            className="field !w-auto"
            value={known[word] ?? ""}
            onChange={(event) => {
              const meant = Object.fromEntries(
                Object.entries({ ...known, [word]: event.target.value }).filter(([, value]) => value),
              );
              onMap({ ...map, words: { ...map.words, [field]: meant } });
            }}
          >
            <option value="">Choose…</option>
            {options.map((option) => (
              <option key={option.value} value={option.value}>
                {option.label}
              </option>
            ))}
          </select>
        </label>
      ))}
    </div>
  );
}
