// Scanning a label with the device's camera: the reader is fetched when it is first opened, and works without signal.
import { useQuery } from "@tanstack/react-query";
import { ScanLine } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { fleetQuery } from "../api/queries";
import { tagIn } from "../documents/scan";
import { tagKey } from "../documents/fleet";
import { Dialog } from "./parts";

type Props = { onTag: (tag: string) => void; compact?: boolean };

/** A button that opens the camera; gives the tag of the first label of the fleet it sees. */
export function ScanButton({ onTag, compact = false }: Props) {
  const [open, setOpen] = useState(false);
  if (!("mediaDevices" in navigator)) return null;
  return (
    <>
      <button
        type="button"
        className={`btn ${compact ? "!px-3 desk:!min-h-[38px]" : ""}`}
        aria-label="Scan a label"
        onClick={() => setOpen(true)}
      >
        <ScanLine size={20} aria-hidden="true" />
        {!compact && <span className="pl-2">Scan a label</span>}
      </button>
      <Dialog title="Scan a label" open={open} onClose={() => setOpen(false)}>
        {open && (
          <Camera
            onTag={(tag) => {
              setOpen(false);
              onTag(tag);
            }}
          />
        )}
      </Dialog>
    </>
  );
}

const WHY: Record<string, string> = {
  NotAllowedError: "The camera is not allowed for this page. Allow it in the browser's settings, or type the tag.",
  NotFoundError: "This device has no camera. Type the tag instead.",
  NotReadableError: "Another program uses the camera. Close it, or type the tag.",
};

function Camera({ onTag }: { onTag: (tag: string) => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const rows = useQuery(fleetQuery).data?.rows;
  const latest = useRef({ rows, onTag });
  const [text, setText] = useState("Hold the code of the label in the picture.");
  useEffect(() => void (latest.current = { rows, onTag }));
  useEffect(() => {
    let over = false;
    let stop = (): unknown => undefined;
    const seen = (code: string) => {
      const tag = tagIn(code);
      const { rows } = latest.current;
      if (over || !rows) return;
      const row = tag && rows.find((each) => tagKey(each.tag) === tagKey(tag));
      if (!row)
        return setText(tag ? `${tag} is no instrument of this fleet.` : "This code is no label of an instrument.");
      over = true;
      latest.current.onTag(row.tag);
    };
    void import("@zxing/browser")
      .then(({ BrowserQRCodeReader }) =>
        new BrowserQRCodeReader().decodeFromConstraints(
          { video: { facingMode: "environment" } },
          video.current ?? undefined,
          (result) => result && seen(result.getText()),
        ),
      )
      .then((controls) => {
        if (over) controls.stop();
        stop = () => controls.stop();
      })
      .catch((error: unknown) =>
        setText(WHY[(error as Error).name] ?? "The camera did not start. Type the tag instead."),
      );
    return () => {
      over = true;
      stop();
    };
  }, []);
  return (
    <div className="grid gap-3">
      <video
        ref={video}
        className="aspect-square w-full rounded-md bg-ink object-cover"
        aria-label="What the camera sees"
        muted
        playsInline
      />
      <p role="status">{text}</p>
    </div>
  );
}
