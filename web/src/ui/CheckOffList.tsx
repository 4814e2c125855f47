// What a careful person does, to tick off: before the first reading, and at the end. It stays on record; nothing is judged by it.
import type { Schemas } from "../api/client";

/** Which face one is on: where the vertical circle stands, seen from the eyepiece. */
function WhichFace() {
  const instrument = (x: number, circle: number, name: string) => (
    <g>
      <path d={`M${x - 34} 74V20h14v30h40V20h14v54z`} fill="none" stroke="var(--color-ink)" strokeWidth="2" />
      <circle cx={x} cy="34" r="13" fill="var(--color-card)" stroke="var(--color-ink)" strokeWidth="2" />
      <circle cx={x} cy="34" r="4" fill="var(--color-ink)" />
      <ellipse
        cx={x + circle * 27}
        cy="34"
        rx="7"
        ry="20"
        fill="var(--color-card)"
        stroke="var(--color-sea)"
        strokeWidth="4"
      />
      <text x={x} y="96" textAnchor="middle" fontSize="16" fill="var(--color-ink)">
        {name}
      </text>
    </g>
  );
  return (
    <figure className="m-0">
      <svg
        viewBox="0 0 300 102"
        className="w-[300px] max-w-full"
        role="img"
        aria-label="Seen from the eyepiece: the vertical circle stands on the left in face left, on the right in face right."
      >
        {instrument(75, -1, "face left")}
        {instrument(225, 1, "face right")}
      </svg>
      <figcaption className="sub">Seen from the eyepiece: where the vertical circle stands.</figcaption>
    </figure>
  );
}

type Item = Schemas["CheckOffOut"];

/** `focus`: how the telescope of this model is focused, where the firm has noted it; `photograph`: how it lies in its case. */
export function CheckOffList({
  items,
  ticked,
  focus,
  photograph,
  onTick,
}: {
  items: Item[];
  ticked: string[];
  focus?: string | undefined;
  photograph?: string | null | undefined;
  onTick: (ticked: string[]) => void;
}) {
  const at = (when: string) => items.filter((item) => item.when === when);
  return (
    <>
      {[
        ["before", "Before the first reading"],
        ["end", "At the end"],
      ].map(([when = "", title]) =>
        at(when).length ? (
          <div key={when} className="grid gap-1" role="group" aria-label={title}>
            <span className="font-semibold">{title}</span>
            {at(when).map((item) => (
              <label key={item.code} className="flex min-h-[44px] items-center gap-3" data-check-off={item.code}>
                <input
                  type="checkbox"
                  className="size-6 shrink-0 accent-[var(--color-ink)]"
                  checked={ticked.includes(item.code)}
                  onChange={(event) =>
                    onTick(event.target.checked ? [...ticked, item.code] : ticked.filter((code) => code !== item.code))
                  }
                />
                {item.text}
              </label>
            ))}
            {focus && at(when).some((item) => item.code === "target-sharp") && (
              <p className="sub" data-focus-hint>
                {focus}
              </p>
            )}
            {at(when).some((item) => item.code === "face-known") && <WhichFace />}
            {photograph && at(when).some((item) => item.code === "case-picture") && (
              <img
                className="max-h-[240px] justify-self-start rounded-md border border-line"
                src={photograph}
                alt="How it lies in its case"
              />
            )}
          </div>
        ) : null,
      )}
    </>
  );
}
