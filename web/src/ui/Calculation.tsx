// Calculation: the equation with this check's figures, the figures in full, and what each reading does to the finding.
import type { Result } from "../api/client";

type Sensitivity = { path: string; where: string; given: string; arcsec_per_mm: number; text: string };

export function Calculation({ result, open = false }: { result: Result; open?: boolean }) {
  const sensitivity = (result.result["sensitivity"] ?? []) as Sensitivity[];
  const most = Math.max(...sensitivity.map((each) => Math.abs(each.arcsec_per_mm)), 1e-9);
  return (
    <details className="card group" open={open}>
      <summary className="flex min-h-[56px] cursor-pointer items-center px-5 text-[1.06rem] font-semibold">
        Calculation
      </summary>
      <div className="@container grid gap-6 px-5 pb-5">
        <dl className="m-0 grid gap-y-2">
          {result.worked.map((line) => (
            <div key={line.text} className="gap-x-6 @3xl:grid @3xl:grid-cols-[330px_1fr]">
              <dt className="sub">{line.text}</dt>
              <dd className="m-0 font-mono">{line.value}</dd>
            </div>
          ))}
        </dl>
        <dl className="m-0 flex flex-wrap gap-x-8 gap-y-2" aria-label="Figures">
          {result.shown.map((each) => (
            <div key={each.quantity}>
              <dt className="sub">{each.label}</dt>
              <dd className="m-0 font-semibold">
                {each.text}
                {each.plus_minus && <span className="sub font-normal"> ±&nbsp;{each.plus_minus}</span>}
              </dd>
            </div>
          ))}
        </dl>
        {sensitivity.length > 0 && (
          <div>
            <h2 className="pb-2">Effect of each reading</h2>
            <ul className="m-0 grid list-none gap-x-8 gap-y-2 p-0 @3xl:grid-cols-2">
              {bySight(sensitivity).map((each) => (
                <li
                  key={each.path}
                  className="grid grid-cols-[minmax(0,1fr)_70px] items-center gap-x-4 border-b border-line pb-2"
                  data-sensitivity={each.path}
                >
                  <span>
                    <b className="font-semibold">{each.where}</b>:{" "}
                    {each.readings.length > 1 ? `in one of these ${each.text}` : each.text}
                    <span className="block font-mono">{each.readings.join("  ")}</span>
                  </span>
                  <Pull share={each.arcsec_per_mm / most} />
                </li>
              ))}
            </ul>
          </div>
        )}
      </div>
    </details>
  );
}

/** Readings of one sight pull alike: given once, each reading named. */
export function bySight(rows: Sensitivity[]): (Sensitivity & { readings: string[] })[] {
  const sights: (Sensitivity & { readings: string[] })[] = [];
  for (const row of rows) {
    const same = sights.find((sight) => sight.where === row.where);
    if (same) same.readings.push(row.given);
    else sights.push({ ...row, readings: [row.given] });
  }
  return sights;
}

/** How strongly, and which way, a reading pulls: a bar from the middle. */
function Pull({ share }: { share: number }) {
  const length = Math.abs(share) * 32;
  return (
    <svg viewBox="0 0 70 12" width="70" height="12" aria-hidden="true">
      <path d="M35 0v12" className="stroke-stroke" strokeWidth="1" />
      <rect x={share < 0 ? 35 - length : 35} y="3" width={Math.max(length, 0.8)} height="6" className="fill-ink" />
    </svg>
  );
}
