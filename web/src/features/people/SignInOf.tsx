// The sign-in of one person, by the manager: a one-time link, a password given in person, every session ended, left or back.
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { fetchAgain } from "../../api/again";
import { type Schemas, api, data } from "../../api/client";
import { peopleQuery } from "../../api/queries";
import { useNotify } from "../../app/notices";
import { Trouble } from "../../ui/parts";
import { SECRET_HINT, OtherTrouble, Secret } from "./Secret";
import { useTrouble } from "../../ui/refusal";

type Row = Schemas["PersonRow"];

export function SignInOf({ item, onDone }: { item: Row; onDone: () => void }) {
  const client = useQueryClient();
  const notify = useNotify();
  const [password, setPassword] = useState("");
  const [trouble, setTrouble] = useTrouble();
  const path = { username: item.username };
  const apply = async (done: Promise<unknown>, answer: string) => {
    try {
      await done;
      await fetchAgain(client, { queryKey: peopleQuery.queryKey });
      notify({ text: answer });
      onDone();
    } catch (error) {
      setTrouble(error);
    }
  };
  return (
    <div className="grid gap-5" data-sign-in>
      <Link item={item} />
      <form
        className="grid gap-3 border-t border-line pt-4"
        onSubmit={(event) => {
          event.preventDefault();
          void apply(
            api.PUT("/api/people/{username}/password", { params: { path }, body: { password } }),
            `${item.name} has a new password; every session has ended.`,
          );
        }}
      >
        <Secret
          label="New password (pass it on in person)"
          value={password}
          onChange={setPassword}
          autoComplete="new-password"
          path="password"
          trouble={trouble}
          hint={SECRET_HINT}
        />
        <button className="btn" disabled={!password}>
          Set this password
        </button>
      </form>
      <OtherTrouble trouble={trouble} />
      <div className="grid gap-3 border-t border-line pt-4">
        <button
          className="btn"
          onClick={() =>
            void apply(
              api.DELETE("/api/people/{username}/sessions", { params: { path } }),
              `Every session of ${item.name} has ended.`,
            )
          }
        >
          End every session
        </button>
        <button
          className="btn"
          onClick={() =>
            void apply(
              api.PUT("/api/people/{username}/active", { params: { path }, body: { active: !item.active } }),
              item.active ? `${item.name} cannot sign in any more.` : `${item.name} may sign in again.`,
            )
          }
        >
          {item.active ? "Has left" : "Is back"}
        </button>
      </div>
      <p className="sub">Someone who has left cannot sign in any more. Their name stays on every record.</p>
    </div>
  );
}

/** A link that lets somebody set a password of their own, once. */
function Link({ item }: { item: Row }) {
  const notify = useNotify();
  const [address, setAddress] = useState("");
  const [trouble, setTrouble] = useTrouble();
  const make = async () => {
    try {
      const { link } = await data(
        api.POST("/api/people/{username}/link", { params: { path: { username: item.username } } }),
      );
      setAddress(`${location.origin}/join/${link}`);
      setTrouble(null);
    } catch (error) {
      setTrouble(error);
    }
  };
  const copy = async () => {
    await navigator.clipboard.writeText(address).catch(() => undefined);
    notify({ text: "Link copied. It works once, for two days." });
  };
  return (
    <div className="grid gap-3">
      <h3 className="font-semibold">Sign-in</h3>
      {address ? (
        <>
          <label className="grid gap-1 font-semibold">
            Send this link to {item.name}
            <input
              className="field font-mono"
              readOnly
              value={address}
              data-link
              onFocus={(event) => event.target.select()}
            />
          </label>
          <button className="btn" onClick={() => void copy()}>
            Copy
          </button>
          <p className="sub">It works once, for two days. Every session of theirs has ended.</p>
        </>
      ) : (
        <button className="btn" onClick={() => void make()}>
          Make a one-time link
        </button>
      )}
      <Trouble error={trouble} />
    </div>
  );
}
