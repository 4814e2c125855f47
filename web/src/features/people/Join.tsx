// Where a one-time link leads: a password of one's own, and in.
import { type FormEvent, useState } from "react";
import { useParams } from "react-router";
import { api, data } from "../../api/client";
import { faultsAt } from "../../ui/Field";
import { FaultLine } from "../../ui/parts";
import { useTrouble } from "../../ui/refusal";
import { SECRET_HINT, OtherTrouble, Secret } from "./Secret";

export function Join() {
  const { link = "" } = useParams();
  const [password, setPassword] = useState("");
  const [trouble, setTrouble] = useTrouble();
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await data(api.POST("/api/join", { body: { link, password } }));
      location.assign("/");
    } catch (error) {
      setTrouble(error);
    }
  };
  return (
    <main className="mx-auto grid min-h-dvh max-w-[480px] content-center gap-5 p-6">
      <h1>Set your password</h1>
      <p>Your equipment manager sent you this link. It works once.</p>
      <form className="grid gap-4" onSubmit={(event) => void submit(event)}>
        <Secret
          label="Password"
          value={password}
          onChange={setPassword}
          autoComplete="new-password"
          path="password"
          trouble={trouble}
          hint={SECRET_HINT}
        />
        {faultsAt(trouble, "link").map((fault) => (
          <FaultLine key={fault.path} fault={fault} />
        ))}
        {!faultsAt(trouble, "link").length && <OtherTrouble trouble={trouble} />}
        <button className="btn now site" disabled={!password}>
          Set password and sign in
        </button>
      </form>
    </main>
  );
}
