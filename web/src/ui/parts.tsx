// The small parts every place shares, on Radix primitives.
import { Dialog as Radix } from "radix-ui";
import { X } from "lucide-react";
import { type ReactNode, useEffect } from "react";
import { Link } from "react-router";
import { NoSignal, Problem, type Fault } from "../api/client";
import { showRefusal, useRefusal } from "./refusal";

/** A page's head: what matters now, the line below it (`low`: beside it), and its one or two outlined actions. */
export function Head({
  title,
  sub,
  actions,
  low = false,
}: {
  title: ReactNode;
  sub?: ReactNode;
  actions?: ReactNode;
  low?: boolean;
}) {
  return (
    <header
      className={`flex flex-wrap items-end justify-between gap-x-6 ${low ? "gap-y-1 desk:items-center" : "gap-y-3"}`}
    >
      <div className={`min-w-0 ${low ? "desk:flex desk:flex-wrap desk:items-baseline desk:gap-x-4" : ""}`}>
        <h1 className={low ? "desk:text-[1.4rem]" : ""}>{title}</h1>
        {sub && <p className={`sub ${low ? "max-desk:mt-1" : "mt-1"}`}>{sub}</p>}
      </div>
      {actions && <div className="flex flex-wrap gap-3 no-print">{actions}</div>}
    </header>
  );
}

type Asked = { title: string; onClose: () => void; children: ReactNode; wide?: boolean };

/** A closed one is not on the page at all. */
export function Dialog({ open, ...asked }: Asked & { open: boolean }) {
  return open ? <OpenDialog {...asked} /> : null;
}

function OpenDialog({ title, onClose, children, wide = false }: Asked) {
  return (
    <Radix.Root open onOpenChange={(now) => !now && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-ink/55" />
        <Radix.Content
          aria-describedby={undefined}
          className="fixed z-50 card left-1/2 top-1/2 -translate-x-1/2 -translate-y-1/2 max-h-[92dvh] overflow-auto p-6"
          style={{ width: `min(94vw, ${wide ? 760 : 520}px)` }}
        >
          <div className="flex items-start justify-between gap-4 mb-4">
            <Radix.Title className="text-[1.35rem] font-bold leading-tight">{title}</Radix.Title>
            <Radix.Close className="btn !min-h-[48px] !px-3 shrink-0" aria-label="Close">
              <X size={20} aria-hidden="true" />
            </Radix.Close>
          </div>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

/** A fault: what was typed, what is wanted; `beside` its own field it need not say where. */
export function FaultLine({ fault, id, beside = false }: { fault: Fault; id?: string; beside?: boolean }) {
  return (
    <p id={id} className="fault text-[16px]" role="alert" data-fault={fault.path}>
      {!beside && `${fault.where.charAt(0).toUpperCase()}${fault.where.slice(1)}: `}
      {fault.given === "nothing" ? "Empty" : <span className="font-mono">{fault.given}</span>}. Enter {fault.wanted}
      {fault.wanted.endsWith("?") ? "" : "."}
    </p>
  );
}

/** A missing entry, next to its field; scrolls there and focuses the field. */
export function Lacking({ at, children }: { at: string; children: ReactNode }) {
  useEffect(() => showRefusal(), []);
  return (
    <p className="fault" role="alert" data-fault={at}>
      {children}
    </p>
  );
}

/** What went wrong with a call, in its own words, and that nothing is lost. */
export function Trouble({ error }: { error: unknown }) {
  useRefusal(error);
  if (!error) return null;
  if (error instanceof NoSignal)
    return (
      <p className="fault" role="alert">
        Offline. This needs a connection; your entries are kept.
      </p>
    );
  if (!(error instanceof Problem))
    return (
      <p className="fault" role="alert">
        Something went wrong on this page. Your entries are kept; reload it.
      </p>
    );
  return (
    <div className="grid gap-2">
      <p className="fault" role="alert">
        {error.title}
      </p>
      {error.faults.map((each) => (
        <FaultLine key={each.path} fault={each} />
      ))}
    </div>
  );
}

export function Cautions({ cautions }: { cautions: { code: string; text: string }[] }) {
  if (!cautions.length) return null;
  return (
    <ul className="caution" aria-label="Cautions">
      {cautions.map((caution) => (
        <li key={caution.code}>{caution.text}</li>
      ))}
    </ul>
  );
}

/** A sequence as a plumb string with steps: done, now, to come. Nothing is locked. */
export function PlumbString({ steps, now }: { steps: { name: string; done: boolean }[]; now: number }) {
  return (
    <ol className="relative m-0 list-none p-0 pl-7" aria-label="Steps">
      <span aria-hidden="true" className="absolute left-[9px] top-3 bottom-2 w-[2px] bg-ink" />
      {steps.map((step, i) => (
        <li
          key={step.name}
          aria-current={i === now ? "step" : undefined}
          className={`relative py-[9px] ${i === now ? "font-bold" : "sub"}`}
        >
          <span
            aria-hidden="true"
            className={`absolute -left-7 top-1/2 -translate-y-1/2 rounded-full border-2 border-ink ${i === now ? "size-5 border-[5px] bg-card" : `size-[11px] ml-[4.5px] ${step.done ? "bg-ink" : "bg-card"}`}`}
          />
          {step.name}
          {step.done && <span className="sr-only"> (done)</span>}
        </li>
      ))}
      <span
        aria-hidden="true"
        className="absolute left-[3px] -bottom-3 h-5 w-[14px] bg-ink [clip-path:polygon(0_0,100%_0,50%_100%)]"
      />
    </ol>
  );
}

export function Back({ to, children }: { to: string; children: ReactNode }) {
  return (
    <Link to={to} className="link no-print">
      {children}
    </Link>
  );
}

/** The shape of a page that is on its way; what it is, for whoever hears it. */
export function Waiting({ what }: { what: string }) {
  return (
    <div role="status" className="grid gap-4" data-waiting>
      <span className="sr-only">{what}</span>
      <span aria-hidden="true" className="after-a-second sub">
        {what}
      </span>
      <span aria-hidden="true" className="bone h-9 w-[min(420px,70%)]" />
      <span aria-hidden="true" className="bone h-[120px]" />
      <span aria-hidden="true" className="bone h-[220px]" />
    </div>
  );
}
