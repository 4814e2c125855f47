// The readings as they were typed, to the letter.
import type { CheckDocument, Sight } from "../../sheet/draft";
import { capital, setupName } from "../../ui/words";

export function ReadingsTable({ document, setAside }: { document: CheckDocument; setAside: string[] }) {
  const unit = document.units?.length ?? "m";
  return (
    <section className="card overflow-x-auto p-5" aria-label="Readings">
      <h2 className="pb-2">Readings as typed, {unit}</h2>
      <table className="w-full border-collapse text-left">
        <thead>
          <tr className="sub border-b-2 border-ink">
            <th className="py-1 pr-3 font-[600]">Set-up</th>
            <th className="py-1 pr-3 font-[600]">To A</th>
            <th className="py-1 pr-3 font-[600]">Staff on A</th>
            <th className="py-1 pr-3 font-[600]">To B</th>
            <th className="py-1 font-[600]">Staff on B</th>
          </tr>
        </thead>
        <tbody>
          {(document.observations.setups ?? []).map((setup, i) => (
            <tr key={i} className="border-b border-line align-top">
              <th className="py-2 pr-3 font-[600]">{capital(setupName(i))}</th>
              {(["a", "b"] as const).map((staff) => (
                <Cells key={staff} sight={setup[staff]} base={`observations.setups[${i}].${staff}`} setAside={setAside} />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {document.remark && <p className="pt-3">{document.remark}</p>}
      <p className="sub pt-2">{weather(document)}</p>
    </section>
  );
}

function Cells({ sight, base, setAside }: { sight: Sight; base: string; setAside: string[] }) {
  const lines = sight.wires?.length ? sight.wires.map((one) => [one.upper, one.middle, one.lower].join("  ")) : (sight.readings ?? []).map(String);
  const path = (i: number) => `${base}.${sight.wires?.length ? "wires" : "readings"}[${i}]`;
  return (
    <>
      <td className="py-2 pr-3 font-mono">{sight.distance === undefined || sight.distance === "" ? "by wires" : String(sight.distance)}</td>
      <td className="py-2 pr-3 font-mono">
        {lines.map((text, i) => (
          <span key={i} className="block whitespace-pre">
            {text}
            {setAside.includes(path(i)) && <b className="font-sans"> set aside</b>}
          </span>
        ))}
        {sight.struck?.map((text, i) => (
          <span key={`s${i}`} className="sub block line-through">
            {String(text)}
          </span>
        ))}
      </td>
    </>
  );
}

/** The circumstances as they were told, in a sentence. */
export function weather(document: CheckDocument): string {
  const { temperature_c, wind, minutes_on, support } = document.conditions ?? {};
  const parts = [temperature_c !== undefined && `${temperature_c} °C`, wind && { calm: "calm", breeze: "a breeze", strong: "strong wind" }[wind], minutes_on !== undefined && `on for ${minutes_on} minutes`, support && { tripod: "on a tripod", pillar: "on a pillar", floor: "on a floor" }[support]].filter(Boolean);
  return parts.length ? `Circumstances: ${parts.join(", ")}.` : "";
}
