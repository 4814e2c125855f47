// The circumstances of a check as one line of chips: what is known, what is not, and what that would change.
import { Popover } from "radix-ui";
import { useState } from "react";
import type { Fault, Kind } from "../../api/client";
import { written } from "../../api/writing";
import type { Conditions } from "../../documents/draft";
import { CheckOffList } from "../../ui/CheckOffList";
import { Choice } from "../../ui/Choice";
import { FaultLine } from "../../ui/parts";

type Circumstance = Kind["conditions"][number];
type Props = {
  kind: Kind;
  focus: string | undefined;
  photograph: string | null | undefined;
  value: Conditions;
  ticked: string[];
  faults: Fault[];
  onChange: (value: Conditions) => void;
  onTick: (ticked: string[]) => void;
};

export function Circumstances({ kind, focus, photograph, value, ticked, faults, onChange, onTick }: Props) {
  const circumstances = kind.conditions.filter((each) => !each.detail);
  const details = kind.conditions.filter((each) => each.detail);
  if (!kind.conditions.length && !kind.check_off.length) return null;
  const set = (name: string, text: string) =>
    onChange(
      Object.fromEntries(Object.entries({ ...value, [name]: text }).filter(([, each]) => each !== "")) as Conditions,
    );
  return (
    <div role="group" aria-label="Conditions" className="contents">
      {circumstances.map((each) => (
        <Chip
          key={each.name}
          circumstance={each}
          text={String(value[each.name as keyof Conditions] ?? "")}
          fault={faults.find((fault) => fault.path === `conditions.${each.name}`)}
          onSet={(text) => set(each.name, text)}
        />
      ))}
      {(details.length > 0 || kind.check_off.length > 0) && (
        <Details
          details={details}
          focus={focus}
          photograph={photograph}
          items={kind.check_off}
          value={value}
          ticked={ticked}
          onSet={set}
          onTick={onTick}
        />
      )}
    </div>
  );
}

type DetailsProps = {
  details: Circumstance[];
  focus: string | undefined;
  photograph: string | null | undefined;
  items: Kind["check_off"];
  value: Conditions;
  ticked: string[];
  onSet: (name: string, text: string) => void;
  onTick: (ticked: string[]) => void;
};

/** What some keep on record beside it, and what a careful person ticks off: behind one chip. */
function Details({ details, focus, photograph, items, value, ticked, onSet, onTick }: DetailsProps) {
  const given = details.filter((each) => value[each.name as keyof Conditions]).length;
  const all = details.length + items.length;
  return (
    <Popover.Root>
      <Popover.Trigger
        data-details
        className={`relative min-h-[48px] shrink-0 whitespace-nowrap rounded-md border-[1.5px] px-3 text-left desk:min-h-[40px] ${given + ticked.length ? "border-ink" : "border-dashed border-field"}`}
      >
        <span className="sub">Checked off</span>{" "}
        <b className="font-semibold">
          {given + ticked.length} of {all}
        </b>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={6}
          collisionPadding={12}
          align="start"
          className="card z-50 grid max-h-[80dvh] w-[min(94vw,460px)] gap-4 overflow-auto p-4 shadow-[0_6px_24px_rgba(16,40,59,0.25)]"
          aria-label="Checked off"
        >
          <CheckOffList items={items} focus={focus} photograph={photograph} ticked={ticked} onTick={onTick} />
          {details.map((each) => (
            <div key={each.name} className="grid gap-2" data-detail={each.name}>
              <span className="font-semibold">{each.label}</span>
              <Choice
                label={each.label}
                value={value[each.name as keyof Conditions] ?? ""}
                options={each.options}
                onChange={(text) => onSet(each.name, text)}
              />
              <p className="sub">{each.unknown}</p>
              {value[each.name as keyof Conditions] && (
                <button className="link justify-self-start" onClick={() => onSet(each.name, "")}>
                  Not known
                </button>
              )}
            </div>
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** What a chip shows of what is known. */
const shownOf = (circumstance: Circumstance, text: string): string =>
  circumstance.options.find((option) => option.value === text)?.label ?? `${written(text)} ${circumstance.unit}`;

function Chip({
  circumstance,
  text,
  fault,
  onSet,
}: {
  circumstance: Circumstance;
  text: string;
  fault: Fault | undefined;
  onSet: (text: string) => void;
}) {
  const [open, setOpen] = useState(false);
  const known = text.trim() !== "";
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        data-circumstance={circumstance.name}
        data-known={known}
        className={`relative min-h-[48px] shrink-0 whitespace-nowrap rounded-md px-3 text-left desk:min-h-[40px] ${fault ? "border-2 border-dashed border-coral" : known ? "border-[1.5px] border-ink" : "border-[1.5px] border-dashed border-field"}`}
      >
        <span className="sub">{circumstance.label}</span>{" "}
        <b className="font-semibold">{known ? shownOf(circumstance, text) : "?"}</b>
        {!known && <span className="sr-only"> not given</span>}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={6}
          collisionPadding={12}
          align="start"
          className="card z-50 grid w-[min(92vw,400px)] gap-3 p-4 shadow-[0_6px_24px_rgba(16,40,59,0.25)]"
          aria-label={circumstance.label}
        >
          <Answer circumstance={circumstance} text={text} onSet={onSet} onDone={() => setOpen(false)} />
          {fault && <FaultLine fault={fault} beside />}
          <p className="sub">{circumstance.unknown}</p>
          {known && (
            <button
              className="link justify-self-start"
              onClick={() => {
                onSet("");
                setOpen(false);
              }}
            >
              Not known
            </button>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Answer({
  circumstance,
  text,
  onSet,
  onDone,
}: {
  circumstance: Circumstance;
  text: string;
  onSet: (text: string) => void;
  onDone: () => void;
}) {
  const choose = (value: string) => {
    onSet(value);
    onDone();
  };
  if (circumstance.options.length)
    return <Choice label={circumstance.label} value={text} options={circumstance.options} onChange={choose} />;
  return (
    <label className="grid gap-1 font-semibold">
      {circumstance.label}, {circumstance.unit}
      <input
        className="field !w-[140px] font-mono"
        inputMode="decimal"
        autoComplete="off"
        value={text}
        onChange={(event) => onSet(event.target.value)}
        onKeyDown={(event) => event.key === "Enter" && onDone()}
      />
    </label>
  );
}
