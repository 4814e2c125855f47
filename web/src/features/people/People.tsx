// Who may sign in: one's own password and sessions; for the manager everybody's, and leavers.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Link } from "react-router";
import { NoSignal, Problem, type Schemas, api, carryToken, data } from "../../api/client";
import { peopleQuery } from "../../api/queries";
import { useNotify } from "../../app/notices";
import { useHere, usePerson } from "../../app/session";
import { Dialog, FaultLine, Head, Trouble } from "../../ui/parts";

type Row = Schemas["PersonRow"];
const ROLES: Record<string, string> = { manager: "Equipment manager", crew: "Crew chief", trainee: "Trainee" };
const LEAST = "Ten characters or more, not your name.";

export function People() {
  const { may } = useHere();
  return (
    <div className="grid gap-4">
      <Head title="People and sign-in" sub="Passwords, lost tablets, people who left." actions={<Link className="btn" to="/settings">Settings of your firm</Link>} />
      <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,420px)_minmax(0,1fr)]">
        <Own />
        {may("manage-people").allowed && <Everybody />}
      </div>
    </div>
  );
}

/** One's own password, and every session elsewhere. */
function Own() {
  const { username } = usePerson();
  const client = useQueryClient();
  const notify = useNotify();
  const [old, setOld] = useState("");
  const [fresh, setFresh] = useState("");
  const [trouble, setTrouble] = useState<unknown>(null);
  const [busy, setBusy] = useState(false);
  const change = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    try {
      const session = await data(api.PUT("/api/session/password", { body: { old, new: fresh } }));
      if (session) carryToken(session.csrf_token);
      client.setQueryData(["session"], session);
      setOld("");
      setFresh("");
      setTrouble(null);
      notify({ text: "Password changed. You are signed out on every other device." });
    } catch (error) {
      setTrouble(error);
    }
    setBusy(false);
  };
  const end = async () => {
    try {
      await api.DELETE("/api/people/{username}/sessions", { params: { path: { username } } });
      await client.refetchQueries({ queryKey: ["session"] });
    } catch (error) {
      setTrouble(error);
    }
  };
  return (
    <section className="card grid gap-5 p-5" aria-label="Your own sign-in">
      <form className="grid gap-4" onSubmit={(event) => void change(event)}>
        <h2>Your password</h2>
        <Secret label="Current password" value={old} onChange={setOld} autoComplete="current-password" path="old" trouble={trouble} />
        <Secret label="New password" value={fresh} onChange={setFresh} autoComplete="new-password" path="new" trouble={trouble} hint={LEAST} />
        <OtherTrouble trouble={trouble} />
        <button className="btn now site" disabled={busy || !old || !fresh}>
          {busy ? "Changing…" : "Change password"}
        </button>
      </form>
      <div className="grid gap-2 border-t border-line pt-4">
        <h2>Lost a tablet?</h2>
        <p className="sub">This signs you out on every device, this one too. Unsent work on a lost tablet stays encrypted.</p>
        <button className="btn justify-self-start" onClick={() => void end()}>
          Sign out everywhere
        </button>
      </div>
    </section>
  );
}

function Everybody() {
  const people = useQuery(peopleQuery);
  const [chosen, setChosen] = useState<Row | null>(null);
  return (
    <section className="card grid gap-3 p-5" aria-label="Everyone">
      <h2>Everyone</h2>
      <ul className="m-0 grid list-none gap-0 p-0">
        {people.data?.map((each) => (
          <li key={each.username} className="flex min-h-[56px] flex-wrap items-center gap-x-4 border-t border-line py-2" data-person={each.username}>
            <span className={`min-w-0 flex-1 ${each.active ? "" : "sub"}`}>
              <b className="font-[640]">{each.name}</b>
              <span className="sub block">
                {each.active ? (ROLES[each.role] ?? each.role) : "Has left: cannot sign in"}
                {each.crew && each.active ? `, ${each.crew} crew` : ""}, signs in as {each.username}
              </span>
            </span>
            <button className="btn" onClick={() => setChosen(each)}>
              Change
            </button>
          </li>
        ))}
      </ul>
      <Trouble error={people.error} />
      <Dialog title={chosen?.name ?? ""} open={chosen !== null} onClose={() => setChosen(null)}>
        {chosen && <Change item={chosen} onDone={() => setChosen(null)} />}
      </Dialog>
    </section>
  );
}

/** What the manager does about one person: a new password, every session ended, left or back. */
function Change({ item, onDone }: { item: Row; onDone: () => void }) {
  const client = useQueryClient();
  const notify = useNotify();
  const [password, setPassword] = useState("");
  const [trouble, setTrouble] = useState<unknown>(null);
  const path = { username: item.username };
  const apply = async (done: Promise<unknown>, answer: string) => {
    try {
      await done;
      await client.invalidateQueries({ queryKey: peopleQuery.queryKey });
      notify({ text: answer });
      onDone();
    } catch (error) {
      setTrouble(error);
    }
  };
  return (
    <div className="grid gap-5">
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void apply(api.PUT("/api/people/{username}/password", { params: { path }, body: { password } }), `${item.name} has a new password; every session has ended.`);
        }}
      >
        <Secret label="New password (tell them in person)" value={password} onChange={setPassword} autoComplete="new-password" path="password" trouble={trouble} hint={LEAST} />
        <button className="btn now site" disabled={!password}>
          Set this password
        </button>
      </form>
      <OtherTrouble trouble={trouble} />
      <div className="grid gap-3 border-t border-line pt-4 tab:grid-cols-2">
        <button className="btn" onClick={() => void apply(api.DELETE("/api/people/{username}/sessions", { params: { path } }), `Every session of ${item.name} has ended.`)}>
          End every session
        </button>
        <button className="btn" onClick={() => void apply(api.PUT("/api/people/{username}/active", { params: { path }, body: { active: !item.active } }), item.active ? `${item.name} cannot sign in any more.` : `${item.name} may sign in again.`)}>
          {item.active ? "Has left" : "Is back"}
        </button>
      </div>
      <p className="sub">Someone who has left cannot sign in any more. Their name stays on every record.</p>
    </div>
  );
}

function faultsOf(trouble: unknown, path: string) {
  return trouble instanceof Problem ? trouble.faults.filter((fault) => fault.path === path) : [];
}

type SecretProps = { label: string; value: string; onChange: (text: string) => void; autoComplete: string; path: string; trouble: unknown; hint?: string };

function Secret({ label, value, onChange, autoComplete, path, trouble, hint }: SecretProps) {
  return (
    <div className="grid gap-1">
      <label className="grid gap-1 font-[600]">
        {label}
        <input className="field" type="password" value={value} autoComplete={autoComplete} maxLength={200} onChange={(event) => onChange(event.target.value)} />
      </label>
      {hint && <p className="sub">{hint}</p>}
      {faultsOf(trouble, path).map((each) => (
        <FaultLine key={each.path} fault={each} beside />
      ))}
    </div>
  );
}

/** What is wrong with none of the fields. */
function OtherTrouble({ trouble }: { trouble: unknown }) {
  if (trouble instanceof NoSignal) return <p className="fault">This needs a connection.</p>;
  if (trouble instanceof Problem && trouble.faults.some((fault) => ["old", "new", "password"].includes(fault.path))) return null;
  return <Trouble error={trouble} />;
}
