// What is to be known of a record before anything else.
import { useState } from "react";
import { Link } from "react-router";
import type { RecordOut } from "../../api/client";
import type { OutboxItem } from "../../device/device";
import { Amend } from "./Amend";

/** It is on this device only, and what will become of it. */
export function Waits({ item }: { item: OutboxItem }) {
  return (
    <div
      className="card flex flex-wrap items-center justify-between gap-3 px-5 py-3"
      role="status"
      data-waits={item.state}
    >
      <span>
        <b>{item.state === "waiting" ? "Stored on this device." : "The server rejected it."}</b>{" "}
        {item.problem?.title ?? "Sent automatically when you are online, and recalculated there."}
      </span>
      <Link className="btn" to="/bench">
        View outbox
      </Link>
    </div>
  );
}

/** What is to be known before anything else: a broken seal, a struck record, a correction. */
export function Notes({ record }: { record: RecordOut }) {
  return (
    <>
      {record.broken && (
        <p className="fault" data-broken>
          {record.broken}
        </p>
      )}
      {record.device_notes.map((device_note) => (
        <p key={device_note.code} className="caution" data-device={device_note.code}>
          {device_note.text}
        </p>
      ))}
      {record.amended_by && (
        <p className="fault" data-amended>
          Struck: {record.amended_why} It remains on record and counts for nothing.
        </p>
      )}
      {record.amends && record.why && (
        <p className="caution">
          This corrects an{" "}
          <Link className="underline" to={`/records/${record.amends}`}>
            earlier record
          </Link>
          : {record.why}
        </p>
      )}
    </>
  );
}

/** Strike it or correct it: the action on a record that stands. */
export function SomethingWrong({ record }: { record: RecordOut }) {
  const [open, setOpen] = useState(false);
  if (record.amended_by) return null;
  return (
    <>
      <button className="btn" onClick={() => setOpen(true)}>
        Something is wrong here
      </button>
      <Amend record={record} open={open} onClose={() => setOpen(false)} />
    </>
  );
}
