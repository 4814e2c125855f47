// Search and glossary: a check, an action, a setting or a term, by any of its names; the keys of the bench below.
import { Suspense, lazy, useEffect, useState } from "react";
import { Dialog, Waiting } from "../ui/parts";
import { onGlossary } from "../ui/Terms";

const Found = lazy(() => import("./Glossary"));

export function Find() {
  const [open, setOpen] = useState(false);
  const [sought, setSought] = useState("");
  useEffect(() => {
    const ask = (event: KeyboardEvent) => {
      const inField = event.target instanceof HTMLElement && event.target.matches("input, textarea, select");
      if (event.key !== "?" || inField) return;
      event.preventDefault();
      setSought("");
      setOpen(true);
    };
    window.addEventListener("keydown", ask);
    const forget = onGlossary((term) => {
      setSought(term);
      setOpen(true);
    });
    return () => {
      window.removeEventListener("keydown", ask);
      forget();
    };
  }, []);
  return (
    <Dialog title="Terms and keys" open={open} onClose={() => setOpen(false)} wide>
      <Suspense fallback={<Waiting what="Loading…" />}>
        <Found sought={sought} onSeek={setSought} onGo={() => setOpen(false)} />
      </Suspense>
    </Dialog>
  );
}
