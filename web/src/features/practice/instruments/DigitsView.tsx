// An electronic level: two figures as it shows them, and the instrument turned round.
import { Choice } from "../../../ui/Choice";
import { type ViewProps, headingsOf } from "./views";

export function DigitsView({ lesson, look, aim, onAim }: ViewProps<"digits">) {
  const rows = [
    ["Along the telescope", look.along_text, "along"],
    ["Across it", look.across_text, "across"],
  ] as const;
  return (
    <>
      <dl
        className="m-0 grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-4 gap-y-2 rounded-md border-[1.5px] border-ink px-4 py-3"
        aria-label="Electronic level"
      >
        {rows.map(([label, text, name]) => (
          <Figure key={name} label={label} name={name} text={text} />
        ))}
      </dl>
      {!look.in_range && <p className="fault">The tilt is more than it can measure. Level it first.</p>}
      <Choice
        label="Turn the instrument to"
        value={String(aim.heading_deg)}
        options={headingsOf(lesson)}
        onChange={(heading) => onAim({ heading_deg: Number(heading) })}
      />
    </>
  );
}

function Figure({ label, name, text }: { label: string; name: string; text: string }) {
  return (
    <>
      <dt>{label}</dt>
      <dd className="m-0 text-right font-mono text-[26px] font-semibold" data-shown={name}>
        {text ? `${text}″` : "beyond"}
      </dd>
    </>
  );
}
