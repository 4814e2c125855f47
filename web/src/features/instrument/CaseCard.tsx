// Its case: what belongs into it, what was missing when somebody last looked, and a picture of how it lies in there.
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { fetchAgain } from "../../api/again";
import type { Instrument } from "../../api/client";
import { api, data } from "../../api/client";
import { sendFile } from "../../api/files";
import { useNotify } from "../../app/notices";
import { useHere } from "../../app/session";
import { Trouble } from "../../ui/parts";
import { day, moment } from "../../ui/words";
import { useTrouble } from "../../ui/refusal";

export function CaseCard({ item }: { item: Instrument }) {
  const { session } = useHere();
  if (!item.contents.length && !item.certificates.length) return null;
  const { missing } = item;
  return (
    <section className="card grid gap-3 px-5 py-3" aria-label="Case">
      <h2>Case</h2>
      {missing && (
        <p className={missing.items.length ? "font-semibold text-coral" : ""}>
          {missing.text}.{" "}
          <span className="sub font-normal">{`${missing.by}, ${moment(missing.at, session.time_zone)}`}</span>
        </p>
      )}
      {item.contents.length > 0 && <p className="sub">{item.contents.join(", ")}.</p>}
      <Picture item={item} />
      {item.certificates.length > 0 && (
        <ul className="m-0 list-none divide-y divide-line border-t border-line p-0" aria-label="Certificates">
          {item.certificates.map((each) => (
            <li key={each.digest} className="py-2">
              <a className="link" href={each.path} download>
                {each.name}
              </a>
              <span className="sub block">
                {day(each.at, session.time_zone)}, {each.by}. SHA-256{" "}
                <span className="font-mono">{each.digest.slice(0, 12)}…</span>
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function Picture({ item }: { item: Instrument }) {
  const client = useQueryClient();
  const notify = useNotify();
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useTrouble();
  const done = async (action: () => Promise<unknown>, text: string) => {
    setBusy(true);
    setTrouble(null);
    try {
      await action();
      await fetchAgain(client, { queryKey: ["instrument", item.tag] });
      notify({ text });
    } catch (error) {
      setTrouble(error);
    }
    setBusy(false);
  };
  const keep = (file: File) =>
    done(() => sendFile("photograph", item.tag, file), "Picture kept. It is shown when you pack.");
  const remove = () =>
    done(
      () => data(api.DELETE("/api/instruments/{tag}/photograph", { params: { path: { tag: item.tag } } })),
      "Picture removed.",
    );
  return (
    <div className="grid gap-2">
      {item.photograph && (
        <img
          className="w-full rounded-md border border-line"
          src={item.photograph}
          alt={`How ${item.tag} lies in its case`}
        />
      )}
      <div className="flex flex-wrap gap-3 no-print">
        <label className="btn cursor-pointer">
          {busy ? "Sending…" : item.photograph ? "New picture" : "Picture of its case"}
          <input
            type="file"
            accept="image/*"
            capture="environment"
            className="sr-only"
            disabled={busy}
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = "";
              if (file) void keep(file);
            }}
          />
        </label>
        {item.photograph && (
          <button className="btn" onClick={() => void remove()}>
            Remove
          </button>
        )}
      </div>
      <Trouble error={trouble} />
    </div>
  );
}
