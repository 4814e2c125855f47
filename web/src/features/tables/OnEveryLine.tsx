// What holds for every line and stands in no column: asked where nothing works without it, offered otherwise.
import type { ColumnLook, ColumnMap } from "../../engine";
import { Fold } from "../../ui/Fold";

type Props = { look: ColumnLook; onMap: (map: ColumnMap) => void };
type Offered = ColumnLook["fields"][number];

export function OnEveryLine({ look, onMap }: Props) {
  const map = look.column_map;
  const used = new Set([
    ...map.columns.map((use) => use.field),
    ...map.columns.flatMap((use) => Object.keys(use.given)),
  ]);
  const open = look.fields.filter((each) => !used.has(each.field) && each.kind !== "text");
  if (!open.length) return null;
  const set = (field: string, value: string) =>
    onMap({
      ...map,
      same: Object.fromEntries(Object.entries({ ...map.same, [field]: value }).filter(([, held]) => held)),
    });
  return (
    <Fold title="The same on every line" open={open.some((each) => each.needed || map.same[each.field])}>
      <div className="grid gap-3 tab:grid-cols-2">
        {open.map((each) => (
          <label key={each.field} className="grid content-start gap-1 font-semibold">
            {each.label}
            <Value of={each} value={map.same[each.field] ?? ""} onValue={(value) => set(each.field, value)} />
          </label>
        ))}
      </div>
    </Fold>
  );
}

function Value({ of, value, onValue }: { of: Offered; value: string; onValue: (value: string) => void }) {
  if (!of.options.length)
    return <input className="field" value={value} onChange={(event) => onValue(event.target.value)} />;
  return (
    <select className="field" value={value} onChange={(event) => onValue(event.target.value)}>
      <option value="">Not stated</option>
      {of.options.map((option) => (
        <option key={option.value} value={option.value}>
          {option.label}
        </option>
      ))}
    </select>
  );
}
