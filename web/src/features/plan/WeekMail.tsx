// The week by e-mail: what it says now, where it goes, and sending it to oneself. The demo writes it where it can be read.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { type Schemas, api, data } from "../../api/client";
import { digestQuery } from "../../api/queries";
import { useHere } from "../../app/session";
import { Field, faultsAt } from "../../ui/Field";
import { Dialog, Trouble, Waiting } from "../../ui/parts";
import { useSaving } from "../../ui/useSaving";

type Digest = Schemas["DigestOut"];

export function WeekMail({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog title="Your week by e-mail" wide open={open} onClose={onClose}>
      {open && <Loaded />}
    </Dialog>
  );
}

function Loaded() {
  const query = useQuery(digestQuery);
  if (query.data) return <Form digest={query.data} />;
  return query.isError ? <Trouble error={query.error} /> : <Waiting what="Writing your week…" />;
}

function Form({ digest }: { digest: Digest }) {
  const { session } = useHere();
  const client = useQueryClient();
  const [email, setEmail] = useState(digest.email);
  const { trouble, run } = useSaving(async () => undefined);
  const take = (answer: Digest) => client.setQueryData(digestQuery.queryKey, answer);
  const store = () =>
    run(
      async () => take(await data(api.PUT("/api/digest/address", { body: { email: email.trim() } }))),
      email.trim() ? "Sent to you every Monday from now on." : "No longer sent to you.",
    );
  const sendNow = () => run(async () => take(await data(api.POST("/api/digest"))), "Sent.");
  return (
    <div className="grid gap-4">
      <p>
        Every Monday: what is due and why, what is on hold or away, which jobs begin. It goes to nobody who has not
        asked for it here.
      </p>
      <form
        className="grid items-end gap-3 tab:grid-cols-[minmax(0,1fr)_auto_auto]"
        onSubmit={(event) => {
          event.preventDefault();
          void store();
        }}
      >
        <Field label="Your e-mail address (empty: not sent)" faults={faultsAt(trouble, "email")}>
          <input
            className="field"
            type="email"
            autoComplete="email"
            maxLength={254}
            value={email}
            onChange={(event) => setEmail(event.target.value)}
          />
        </Field>
        <button className="btn now">Save</button>
        <button
          type="button"
          className="btn"
          aria-disabled={!digest.email || !digest.can_send}
          onClick={() => digest.email && digest.can_send && void sendNow()}
        >
          Send it now
        </button>
      </form>
      {!digest.can_send && (
        <p className="sub">No mail server is set yet, so nothing is sent. docs/running.md says how to set one.</p>
      )}
      {!faultsAt(trouble, "email").length && <Trouble error={trouble} />}
      <Message title="As it would go out now" digest={digest} />
      {session.demo &&
        digest.sent.map((each, i) => (
          <Message key={i} title="Sent (the demo writes it to a file instead)" digest={each} />
        ))}
    </div>
  );
}

function Message({ title, digest }: { title: string; digest: Schemas["DigestText"] }) {
  return (
    <section className="grid gap-1" aria-label={title}>
      <h3 className="font-semibold">{title}</h3>
      <p className="sub">{digest.subject}</p>
      <pre
        className="m-0 max-h-[320px] overflow-auto whitespace-pre-wrap rounded-md border border-line p-3 font-sans"
        tabIndex={0}
      >
        {digest.text}
      </pre>
    </section>
  );
}
