// How the file is cut into cells, and what its angles are written in.
import type { ColumnLook, ColumnMap } from "../../engine";
import { ANGLES } from "../../ui/units";

const SEPARATORS = [
  ["comma", "Commas"],
  ["semicolon", "Semicolons"],
  ["tab", "Tabs"],
  ["spaces", "Blanks"],
] as const;

/** The core looks for headings as far down. */
const MAX_LINES = 30;

type Props = { look: ColumnLook; onCut: (map: ColumnMap) => void; onMap: (map: ColumnMap) => void };

export function Cut({ look, onCut, onMap }: Props) {
  const map = look.column_map;
  const angles = look.uses.some((use) => use.kind === "angle");
  return (
    <div className="grid grid-cols-2 gap-3 tab:grid-cols-[minmax(0,1fr)_minmax(0,1fr)_minmax(0,2fr)]">
      <label className="grid gap-1 font-semibold">
        Between cells
        <select
          className="field"
          value={map.separator}
          onChange={(event) => onCut({ ...map, separator: event.target.value as ColumnMap["separator"] })}
        >
          {SEPARATORS.map(([value, label]) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </select>
      </label>
      <label className="grid gap-1 font-semibold">
        Headings in line
        <select
          className="field"
          value={map.heading_line}
          onChange={(event) => onCut({ ...map, heading_line: Number(event.target.value) })}
        >
          <option value={0}>None</option>
          {Array.from({ length: Math.max(MAX_LINES, map.heading_line) }, (_, i) => (
            <option key={i + 1} value={i + 1}>
              {i + 1}
            </option>
          ))}
        </select>
      </label>
      {angles && (
        <label className="grid gap-1 font-semibold max-tab:col-span-2">
          Angles are written in
          <select
            className={`field ${map.angle ? "" : "unset"}`}
            data-angle-unit
            value={map.angle}
            onChange={(event) => onMap({ ...map, angle: event.target.value as ColumnMap["angle"] })}
          >
            <option value="" disabled>
              Choose…
            </option>
            {ANGLES.map((each) => (
              <option key={each.value} value={each.value}>
                {each.label}
                {each.value === "dms" && " (102.4305 or 102 43 05)"}
              </option>
            ))}
          </select>
        </label>
      )}
    </div>
  );
}
