// Everybody of the firm: who signs in, in which role and crew, what each may adjust; leavers stay on record.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { peopleQuery } from "../../api/queries";
import { useHere } from "../../app/session";
import { useKinds } from "../../hooks/useKinds";
import { Changes } from "../../ui/Changes";
import { Dialog, Head, Trouble, Waiting } from "../../ui/parts";
import { SettingsTabs } from "../../ui/Tabs";
import { ROLE_NAMES, lowered } from "../../ui/words";
import { NewPerson } from "./NewPerson";
import { PersonForm } from "./PersonForm";
import { SignInOf } from "./SignInOf";

type Row = Schemas["PersonRow"];

export function People() {
  const { may } = useHere();
  const right = may("manage-people");
  const [adding, setAdding] = useState(false);
  return (
    <div className="grid gap-4">
      <SettingsTabs />
      <Head
        title="People"
        sub="Who works with Naveta, in which role and crew, and what each may adjust."
        actions={
          right.allowed && (
            <button className="btn" onClick={() => setAdding(true)}>
              Add a person
            </button>
          )
        }
      />
      {right.allowed ? <Everybody /> : <p className="sub">{right.text}</p>}
      {right.allowed && <Changes about="person:" />}
      <Dialog title="Add a person" open={adding} onClose={() => setAdding(false)}>
        <NewPerson onDone={() => setAdding(false)} />
      </Dialog>
    </div>
  );
}

function Everybody() {
  const people = useQuery(peopleQuery);
  const [chosen, setChosen] = useState<string | null>(null);
  const item = people.data?.find((row) => row.username === chosen);
  return (
    <section className="card grid gap-3 p-5" aria-label="Everyone">
      {people.isPending && <Waiting what="Loading everyone…" />}
      <ul className="m-0 grid list-none gap-0 p-0">
        {people.data?.map((row) => (
          <PersonLine key={row.username} row={row} onChange={() => setChosen(row.username)} />
        ))}
      </ul>
      <Trouble error={people.error} />
      <Dialog title={item?.name ?? ""} open={item !== undefined} onClose={() => setChosen(null)} wide>
        {item && (
          <div className="grid items-start gap-6 tab:grid-cols-2">
            <PersonForm key={item.username} first={item} />
            <SignInOf item={item} onDone={() => setChosen(null)} />
          </div>
        )}
      </Dialog>
    </section>
  );
}

function PersonLine({ row, onChange }: { row: Row; onChange: () => void }) {
  const kinds = useKinds();
  const adjusts =
    row.adjusts === null
      ? ""
      : row.adjusts.length
        ? `, adjusts after ${row.adjusts.map((kind) => lowered(kinds.find((each) => each.kind === kind)?.title ?? kind)).join(", ")}`
        : ", adjusts nothing";
  return (
    <li
      className="flex min-h-[56px] flex-wrap items-center gap-x-4 border-t border-line py-2 first:border-0"
      data-person={row.username}
    >
      <span className={`min-w-0 flex-1 ${row.active ? "" : "sub"}`}>
        <b className="font-semibold">{row.name}</b>
        <span className="sub block">
          {row.active ? (ROLE_NAMES[row.role] ?? row.role) : "Has left: cannot sign in"}
          {row.crew && row.active ? `, ${row.crew} crew` : ""}, signs in as {row.username}
          {row.active ? adjusts : ""}
        </span>
      </span>
      <button className="btn" onClick={onChange}>
        Change
      </button>
    </li>
  );
}
