// Sign-in: one touch on a name in the demo, else name and password.
import { useState } from "react";
import { Trouble } from "../ui/parts";
import { useHere } from "./session";
import { Mark } from "./Mark";
import { useTrouble } from "../ui/refusal";

const ROLES: Record<string, string> = { manager: "Equipment manager", crew: "Crew chief", trainee: "Trainee" };

export function SignIn({ over = false }: { over?: boolean }) {
  const { session } = useHere();
  return (
    <main className={over ? "" : "mx-auto grid min-h-dvh max-w-[560px] content-center gap-6 p-6"}>
      {!over && (
        <div className="flex items-center gap-4">
          <span className="text-ink">
            <Mark size={64} />
          </span>
          <div>
            <h1>Naveta</h1>
            <p className="sub">Survey instruments: checked, adjusted, on record.</p>
          </div>
        </div>
      )}
      <p className="text-[17px]">
        {over ? "Your session has ended. Your entries are kept; sign in and continue." : "Who is at work?"}
      </p>
      {session.demo ? <QuickFix /> : <ByPassword />}
    </main>
  );
}

function QuickFix() {
  const { session, signIn } = useHere();
  const [trouble, setTrouble] = useTrouble();
  return (
    <div className="grid gap-3">
      {session.demo_people.map((each) => (
        <button
          key={each.username}
          className="btn site !justify-start !px-5"
          onClick={() => void signIn(each.username).catch(setTrouble)}
        >
          <span className="text-left">
            {each.name}
            <span className="block text-[15px] font-normal sub">
              {ROLES[each.role]}
              {each.crew ? `, ${each.crew} crew` : ""}
            </span>
          </span>
        </button>
      ))}
      <p className="sub text-[16px]">Demo: Sorrel &amp; Quay, Pellow Creek. Everything here is invented.</p>
      <Trouble error={trouble} />
    </div>
  );
}

function ByPassword() {
  const { signIn } = useHere();
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const [trouble, setTrouble] = useTrouble();
  const [busy, setBusy] = useState(false);
  const submit = async (event: React.FormEvent) => {
    event.preventDefault();
    setBusy(true);
    await signIn(username.trim().toLowerCase(), password).catch(setTrouble);
    setBusy(false);
  };
  return (
    <form className="grid gap-4" onSubmit={(e) => void submit(e)}>
      <label className="grid gap-1 font-semibold">
        Sign-in name
        <input
          className="field"
          autoComplete="username"
          autoCapitalize="none"
          value={username}
          onChange={(e) => setUsername(e.target.value)}
          required
        />
      </label>
      <label className="grid gap-1 font-semibold">
        Password
        <input
          className="field"
          type="password"
          autoComplete="current-password"
          value={password}
          onChange={(e) => setPassword(e.target.value)}
          required
        />
      </label>
      <button className="btn now site" disabled={busy}>
        {busy ? "Signing in…" : "Sign in"}
      </button>
      <Trouble error={trouble} />
    </form>
  );
}
