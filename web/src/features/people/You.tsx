// One's own sign-in: password, and every session elsewhere.
import { useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, carryToken, data } from "../../api/client";
import { useNotify } from "../../app/notices";
import { usePerson } from "../../app/session";
import { Head } from "../../ui/parts";
import { SettingsTabs } from "../../ui/Tabs";
import { SECRET_HINT, OtherTrouble, Secret } from "./Secret";
import { useTrouble } from "../../ui/refusal";

export function You() {
  return (
    <div className="grid gap-4">
      <SettingsTabs />
      <Head title="Your sign-in" sub="Password, and lost tablets." />
      <div className="max-w-[460px]">
        <Own />
      </div>
    </div>
  );
}

function Own() {
  const { username } = usePerson();
  const client = useQueryClient();
  const notify = useNotify();
  const [old, setOld] = useState("");
  const [fresh, setFresh] = useState("");
  const [trouble, setTrouble] = useTrouble();
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
        <Secret
          label="Current password"
          value={old}
          onChange={setOld}
          autoComplete="current-password"
          path="old"
          trouble={trouble}
        />
        <Secret
          label="New password"
          value={fresh}
          onChange={setFresh}
          autoComplete="new-password"
          path="new"
          trouble={trouble}
          hint={SECRET_HINT}
        />
        <OtherTrouble trouble={trouble} />
        <button className="btn now site" disabled={busy || !old || !fresh}>
          {busy ? "Changing…" : "Change password"}
        </button>
      </form>
      <div className="grid gap-2 border-t border-line pt-4">
        <h2>Lost a tablet?</h2>
        <p className="sub">
          This signs you out on every device, this one too. Unsent work on a lost tablet stays encrypted.
        </p>
        <button className="btn justify-self-start" onClick={() => void end()}>
          Sign out everywhere
        </button>
      </div>
    </section>
  );
}
