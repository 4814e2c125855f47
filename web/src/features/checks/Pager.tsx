// The pages of a long sheet: which set is open, how far each is, and a good place to stop.
import type { Fault } from "../../api/client";
import { type Page, pageOf } from "../../documents/pages";
import type { Pages } from "./usePages";

export function Pager({ pages, faults }: { pages: Pages; faults: Fault[] }) {
  const { all, at, open } = pages;
  const page = all[at];
  if (!page || all.length < 2) return null;
  const done = page.typed >= page.wanted;
  const next = all[at + 1];
  const wrong = new Set(faults.map((fault) => pageOf(all, fault.path)));
  return (
    <div className="grid gap-1" role="group" aria-label="Sets of this sheet">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2>{page.title}</h2>
        {done && next ? (
          <p className="flex flex-wrap items-center gap-x-3" data-set-done>
            Complete. Stop here, or
            <button className="link !min-h-[24px] max-desk:!min-h-[44px]" onClick={() => open(at + 1)}>
              go on: {next.title}
            </button>
          </p>
        ) : (
          <p className="sub" data-page-progress>
            {at + 1} of {all.length}, {page.typed} of {page.wanted} readings
          </p>
        )}
      </div>
      <div className="flex gap-1">
        {all.map((each, i) => (
          <Tick key={each.title} page={each} here={i === at} wrong={wrong.has(i)} onOpen={() => open(i)} />
        ))}
      </div>
    </div>
  );
}

/** One set: filled as far as it is typed, a line under the open one. */
function Tick({ page, here, wrong, onOpen }: { page: Page; here: boolean; wrong: boolean; onOpen: () => void }) {
  const share = page.wanted ? page.typed / page.wanted : 1;
  const words = `${page.title}: ${page.typed} of ${page.wanted} readings${wrong ? ", needs correcting" : ""}`;
  return (
    <button
      className="group grid min-h-[44px] min-w-0 flex-1 content-center desk:min-h-[28px]"
      aria-label={words}
      title={words}
      aria-current={here ? "step" : undefined}
      onClick={onOpen}
    >
      <span
        className={`relative block h-[12px] overflow-hidden rounded-[3px] border-[1.5px] ${wrong ? "border-coral border-dashed" : "border-ink"}`}
      >
        <span className="absolute inset-y-0 left-0 bg-ink" style={{ width: `${Math.round(share * 100)}%` }} />
      </span>
      <span aria-hidden="true" className={`mt-1 h-[3px] ${here ? "bg-ink" : "bg-transparent"}`} />
    </button>
  );
}
