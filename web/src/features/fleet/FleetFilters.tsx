// What of the fleet is shown: search, filters, when due, which columns, and views kept by name.
import { Check, Search } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";
import { written } from "../../api/writing";
import {
  COLUMNS,
  type Filter,
  type FleetRow,
  STATE_NAMES,
  type View,
  addressOf,
  choices,
  viewOf,
} from "../../documents/fleet";
import { KIND_NAMES } from "../../ui/instrumentSpec";
import { columnOf } from "./columns";
import { KeptViews } from "../../ui/KeptViews";
import { Menu } from "../../ui/Menu";

const CALLED: Record<Filter, string> = { kind: "Kind", state: "State", crew: "Who", place: "Place" };
const WITHIN = [7, 14, 30, 90];

export function FleetFilters({ rows, view, onView }: { rows: FleetRow[]; view: View; onView: (view: View) => void }) {
  return (
    <div
      className="flex min-w-0 flex-1 items-center gap-2 no-print max-desk:basis-full tab:max-desk:flex-wrap max-tab:-mx-4 max-tab:overflow-x-auto max-tab:px-4 max-tab:py-1"
      role="group"
      aria-label="Filters"
    >
      <label className="relative block min-w-[180px] flex-1 desk:max-w-[256px]">
        <span className="sr-only">Find an instrument</span>
        <Search
          size={20}
          aria-hidden="true"
          className="pointer-events-none absolute left-3 top-1/2 -translate-y-1/2 text-ink-2"
        />
        <input
          className="field !pl-10 desk:!min-h-[40px]"
          type="search"
          value={view.text}
          onChange={(event) => onView({ ...view, text: event.target.value })}
          placeholder="Tag, model, place or crew"
          autoComplete="off"
        />
      </label>
      {(["kind", "state", "crew", "place"] as const).map((filter) => (
        <FilterMenu key={filter} filter={filter} rows={rows} view={view} onView={onView} />
      ))}
      <Menu name={view.within === null ? "Due" : `Due in ${view.within} days`} on={view.within !== null}>
        <Tick checked={view.within === null} onCheck={() => onView({ ...view, within: null })}>
          Whenever
        </Tick>
        {WITHIN.map((days) => (
          <Tick key={days} checked={view.within === days} onCheck={() => onView({ ...view, within: days })}>
            Within {days} days
          </Tick>
        ))}
      </Menu>
      <Menu name="Columns" on={false}>
        {COLUMNS.map((name) => (
          <Tick
            key={name}
            checked={view.columns.includes(name)}
            onCheck={(on) =>
              onView({ ...view, columns: COLUMNS.filter((each) => (each === name ? on : view.columns.includes(each))) })
            }
          >
            {columnOf(name).name}
          </Tick>
        ))}
      </Menu>
      <KeptViews
        place="fleet"
        address={addressOf(view).toString()}
        whole="Whole fleet"
        example="Levels due this month"
        onView={(address) => onView(viewOf(new URLSearchParams(address)))}
      />
    </div>
  );
}

function FilterMenu({
  filter,
  rows,
  view,
  onView,
}: {
  filter: Filter;
  rows: FleetRow[];
  view: View;
  onView: (view: View) => void;
}) {
  const chosen = view.filters[filter];
  const called = (value: string) =>
    filter === "state"
      ? (STATE_NAMES[value] ?? value)
      : filter === "kind"
        ? written(KIND_NAMES[value] ?? value)
        : value;
  const set = (values: string[]) => onView({ ...view, filters: { ...view.filters, [filter]: values } });
  return (
    <Menu
      name={
        chosen.length === 1
          ? called(chosen[0] ?? "")
          : chosen.length
            ? `${CALLED[filter]}: ${chosen.length}`
            : CALLED[filter]
      }
      on={chosen.length > 0}
    >
      {chosen.length > 0 && (
        <DropdownMenu.Item className="menu-item" onSelect={() => set([])}>
          All
        </DropdownMenu.Item>
      )}
      {choices(rows, filter).map(([value, count]) => (
        <Tick
          key={value}
          checked={chosen.includes(value)}
          onCheck={(on) => set(on ? [...chosen, value] : chosen.filter((each) => each !== value))}
        >
          {called(value)} <span className="ml-auto pl-4 opacity-80">{count}</span>
        </Tick>
      ))}
    </Menu>
  );
}

/** A menu behind an outlined touch; `on` where it narrows what is shown. */
function Tick({
  checked,
  onCheck,
  children,
}: {
  checked: boolean;
  onCheck: (on: boolean) => void;
  children: ReactNode;
}) {
  return (
    <DropdownMenu.CheckboxItem
      className="menu-item"
      checked={checked}
      onCheckedChange={onCheck}
      onSelect={(event) => event.preventDefault()}
    >
      <span className="grid w-6 place-items-center">{checked && <Check size={18} aria-hidden="true" />}</span>
      {children}
    </DropdownMenu.CheckboxItem>
  );
}
