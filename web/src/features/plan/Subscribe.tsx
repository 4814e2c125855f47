// The calendar in another program: a secret address, shown once, for the fleet, a crew or an instrument; revoked here.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { fetchAgain } from "../../api/again";
import { Problem, type Schemas, api, data } from "../../api/client";
import { calendarLinksQuery, peopleNamesQuery } from "../../api/queries";
import { useNotify } from "../../app/notices";
import { useHere, usePerson } from "../../app/session";
import { Field, faultsAt } from "../../ui/Field";
import { Dialog, Trouble } from "../../ui/parts";
import { useSaving } from "../../ui/useSaving";
import { moment } from "../../ui/words";

type Link = Schemas["CalendarLinkOut"];
const nameOf = (link: Link): string =>
  link.scope === "fleet" ? "All instruments" : link.scope === "crew" ? `${link.name} crew` : link.name;

export function Subscribe({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog title="Add to my calendar" open={open} onClose={onClose}>
      <p className="pb-4">
        Make an address and subscribe to it in your calendar program. Whoever has it sees what is due and the jobs,
        without signing in. It is shown once; revoke it when it is not needed.
      </p>
      <MakeLink />
      <Links />
    </Dialog>
  );
}

function MakeLink() {
  const { crew } = usePerson();
  const notify = useNotify();
  const client = useQueryClient();
  const crews = [
    ...new Set((useQuery(peopleNamesQuery).data ?? []).flatMap((person) => (person.crew ? [person.crew] : []))),
  ].sort();
  const [of, setOf] = useState(crew ? `crew:${crew}` : "fleet");
  const [tag, setTag] = useState("");
  const [address, setAddress] = useState("");
  const { trouble, run } = useSaving(async () => undefined);
  const make = () =>
    run(async () => {
      const body =
        of === "instrument"
          ? { scope: "instrument", name: tag }
          : of === "fleet"
            ? { scope: "fleet", name: "" }
            : { scope: "crew", name: of.slice(5) };
      const made = await data(api.POST("/api/calendar-links", { body }));
      setAddress(`${location.origin}${made.path}`);
      await fetchAgain(client, { queryKey: ["calendar-links"] });
    });
  const copy = async () => {
    await navigator.clipboard.writeText(address);
    notify({ text: "Address copied." });
  };
  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        void make();
      }}
    >
      <Field label="Of" faults={faultsAt(trouble, "name").concat(faultsAt(trouble, "scope"))}>
        <select
          className="field"
          value={of}
          onChange={(event) => {
            setOf(event.target.value);
            setAddress("");
          }}
        >
          <option value="fleet">All instruments</option>
          {crews.map((name) => (
            <option key={name} value={`crew:${name}`}>
              {name} crew
            </option>
          ))}
          <option value="instrument">One instrument</option>
        </select>
      </Field>
      {of === "instrument" && (
        <Field label="Tag" faults={[]}>
          <input
            className="field font-mono"
            required
            autoComplete="off"
            value={tag}
            placeholder="LV-07"
            onChange={(event) => setTag(event.target.value)}
          />
        </Field>
      )}
      {!(trouble instanceof Problem && trouble.faults.length) && <Trouble error={trouble} />}
      {address ? (
        <div className="grid gap-2" role="status">
          <input
            className="field font-mono text-[15px]"
            readOnly
            aria-label="Address"
            value={address}
            onFocus={(event) => event.target.select()}
          />
          <button type="button" className="btn now site" onClick={() => void copy()}>
            Copy the address
          </button>
        </div>
      ) : (
        <button className="btn now site">Make an address</button>
      )}
    </form>
  );
}

function Links() {
  const { session } = useHere();
  const links = useQuery(calendarLinksQuery).data ?? [];
  const { run } = useSaving(async () => undefined);
  if (!links.length) return null;
  const revoke = (link: Link) =>
    run(
      () => api.DELETE("/api/calendar-links/{pk}", { params: { path: { pk: link.id } } }),
      `${nameOf(link)}: address revoked.`,
    );
  return (
    <ul className="m-0 mt-4 list-none divide-y divide-line border-t border-line p-0" aria-label="Addresses in use">
      {links.map((link) => (
        <li key={link.id} className="flex items-center justify-between gap-3 py-2">
          <span>
            {nameOf(link)}
            <span className="sub block">
              {link.by}, {moment(link.at, session.time_zone)}
            </span>
          </span>
          <button className="btn !px-3" aria-label={`Revoke: ${nameOf(link)}`} onClick={() => void revoke(link)}>
            Revoke
          </button>
        </li>
      ))}
    </ul>
  );
}
