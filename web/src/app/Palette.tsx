// The command palette: `/` or Ctrl+K, then any instrument, check, point, record, place, setting or term by what one would type.
import { Dialog } from "radix-ui";
import { Suspense, lazy, useEffect, useState } from "react";
import { onPalette } from "./palette";
import { SEARCH } from "./paletteStyle";

const PaletteDialog = lazy(() => import("./PaletteAsked"));

export function Palette() {
  const [open, setOpen] = useState(false);
  // What is typed while the search is still on its way is not lost.
  const [text, setText] = useState("");
  useEffect(() => {
    const ask = (event: KeyboardEvent) => {
      const inField = event.target instanceof HTMLElement && event.target.matches("input, textarea, select");
      const wanted =
        (event.key === "/" && !inField) || (event.key.toLowerCase() === "k" && (event.ctrlKey || event.metaKey));
      if (!wanted) return;
      event.preventDefault();
      setText("");
      setOpen(true);
    };
    window.addEventListener("keydown", ask);
    const forget = onPalette(() => {
      setText("");
      setOpen(true);
    });
    return () => {
      window.removeEventListener("keydown", ask);
      forget();
    };
  }, []);
  if (!open) return null;
  return (
    <Dialog.Root open onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/55" />
        <Dialog.Content
          aria-describedby={undefined}
          className="card fixed left-1/2 top-[8dvh] z-50 max-h-[84dvh] w-[min(94vw,680px)] -translate-x-1/2 overflow-hidden p-0"
        >
          <Dialog.Title className="sr-only">Find anything</Dialog.Title>
          <Suspense
            fallback={
              <input
                autoFocus
                aria-label="Find anything"
                className={SEARCH}
                value={text}
                onChange={(event) => setText(event.target.value)}
              />
            }
          >
            <PaletteDialog text={text} onText={setText} onDone={() => setOpen(false)} />
          </Suspense>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
