// Whether the page is as narrow as a phone: drawings are then laid out smaller, so that their letters are not.
import { useSyncExternalStore } from "react";

const narrow = typeof matchMedia === "function" ? matchMedia("(max-width: 759px)") : null;

export function useNarrow(): boolean {
  return useSyncExternalStore(
    (answer) => {
      narrow?.addEventListener("change", answer);
      return () => narrow?.removeEventListener("change", answer);
    },
    () => narrow?.matches ?? false,
  );
}
