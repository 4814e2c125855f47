// What a device sent last, where it went, and the way back; what did not fit, said once.
import type { Line } from "../../engine/devices";
import { useLink } from "../../hooks/useLink";
import type { Arriving } from "./useArriving";

const UNITS: Record<string, string> = { arcsec: "″", dms: "", deg: "°" };
const withUnit = (sent: string, unit: string): string => {
  const value = sent.replace("-", "−");
  return unit === "arcsec" || unit === "deg" ? `${value}${UNITS[unit]}` : unit === "dms" ? value : `${value} ${unit}`;
};
const LIVE: Record<string, string> = { along: "Along", across: "Across" };

export function ArrivingStrip({ arriving }: { arriving: Arriving }) {
  const link = useLink();
  if (link.state === "off") return null;
  const { filled, live } = arriving;
  const message = arriving.message ?? link.message;
  const waits =
    link.state === "connected"
      ? "Waiting for the first reading."
      : link.state === "lost"
        ? "The link is lost. What came is in the sheet; it reconnects on its own."
        : "Connecting…";
  return (
    <section
      aria-label="Readings that arrive"
      data-count={arriving.count}
      className="card no-print flex min-h-[48px] flex-wrap items-center gap-x-4 gap-y-1 px-4 py-1"
    >
      <div role="status" className="flex min-w-0 flex-1 flex-wrap items-baseline gap-x-4">
        {filled && link.state === "connected" ? (
          <span>
            <b className="font-mono font-semibold">{withUnit(filled.value, filled.unit)}</b>{" "}
            <span className="sub">from {filled.device}</span> {filled.where}
          </span>
        ) : (
          (!live.length || link.state !== "connected") && <span className="sub">{waits}</span>
        )}
        {link.state === "connected" && live.map((line) => <LiveFigure key={line.quantity} line={line} />)}
        {message && (
          <span data-message={message.code} className="border-l-4 border-coral pl-2">
            {message.text}
          </span>
        )}
      </div>
      {live.length > 0 && link.state === "connected" && (
        <button className="btn !min-h-[40px]" onClick={arriving.takeLive}>
          Take this reading
        </button>
      )}
      {filled && (
        <button className="min-h-[48px] px-2 underline underline-offset-4" onClick={arriving.undo}>
          Undo
        </button>
      )}
    </section>
  );
}

function LiveFigure({ line }: { line: Line }) {
  return (
    <span>
      <span className="sub">{LIVE[line.quantity] ?? line.quantity}</span>{" "}
      <b className="inline-block min-w-[4.5em] text-right font-mono font-semibold">{withUnit(line.value, line.unit)}</b>
    </span>
  );
}
