// The field sheet: every set-up with its two staffs, in the order in which they are read.
import type { Preview } from "../../api/client";
import type { Draft } from "../../sheet/draft";
import { FaultLine } from "../../ui/parts";
import { type Keys, SightCell } from "./SightCell";
import { type Staff, distancePath, setupsOf } from "../../sheet/entry";
import { capital, setupName } from "../../ui/words";

type Props = { draft: Draft; said: Preview | null; indexOf: (setup: number, staff: Staff) => number; keys: Keys; onRemove: (index: number) => void; onAdd: () => void };

export function Sheet({ draft, said, indexOf, keys, onRemove, onAdd }: Props) {
  const setups = setupsOf(draft.document);
  const unit = said?.partial.unit ?? draft.document.units?.length ?? "m";
  const faults = said?.faults ?? [];
  const whole = faults.filter((one) => !/^observations\.setups\[\d+\]\.[ab]/.test(one.path));
  const cell = (setup: number, staff: Staff) => (
    <SightCell
      document={draft.document}
      setup={setup}
      staff={staff}
      index={indexOf(setup, staff)}
      filled={draft.filled.includes(distancePath(setup, staff))}
      faults={faults}
      said={said?.partial.sights.find((one) => one.path === `observations.setups[${setup}].${staff}`)}
      unit={unit}
      keys={keys}
    />
  );
  return (
    <section className="card grid gap-5 p-4 tab:p-5" aria-label="Field sheet">
      {setups.map((_, i) => (
        <div key={i} data-setup-row={i} className="grid gap-x-4 gap-y-3 tab:grid-cols-[72px_minmax(0,1fr)_minmax(0,1fr)]">
          <div className="flex items-start justify-between tab:block">
            <h2 className="whitespace-nowrap tab:whitespace-pre tab:pt-8">{capital(setupName(i)).replace(" ", "\n")}</h2>
            {setups.length > 2 && (
              <button className="sub min-h-[48px] underline underline-offset-4" onClick={() => onRemove(i)}>
                Remove
              </button>
            )}
          </div>
          {cell(i, "a")}
          {cell(i, "b")}
        </div>
      ))}
      {whole.map((one) => (
        <FaultLine key={one.path} fault={one} />
      ))}
      <div className="flex flex-wrap items-center justify-between gap-x-6 gap-y-2 no-print">
        <p className="sub hidden desk:block">
          <kbd>Enter</kbd> next as you read &nbsp; <kbd>;</kbd> one more here &nbsp; <kbd>*</kbd> three wires &nbsp; <kbd>=</kbd> same again
        </p>
        {setups.length < 8 && (
          <button className="link" onClick={onAdd}>
            One more set-up
          </button>
        )}
      </div>
    </section>
  );
}
