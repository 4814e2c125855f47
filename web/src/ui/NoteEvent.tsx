// Report what happened to an instrument: never refused, never lost, given to everybody who opens the yard. Open, choose, report.
import { Suspense, lazy } from "react";
import { Dialog, Waiting } from "./parts";

const NoteForm = lazy(() => import("./NoteForm"));

export function NoteEvent({ open, onClose, tag }: { open: boolean; onClose: () => void; tag?: string }) {
  return (
    <Dialog title={tag ? `What happened to ${tag}?` : "What happened?"} open={open} onClose={onClose}>
      <Suspense fallback={<Waiting what="Loading…" />}>
        <NoteForm tag={tag} onClose={onClose} />
      </Suspense>
    </Dialog>
  );
}
