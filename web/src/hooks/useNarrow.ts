// Whether there is as little room as on a phone: drawings are then laid out smaller, so that their letters are not.
import { createContext, useContext, useSyncExternalStore } from "react";

/** Given around what stands in a narrow column of a wide page. */
export const NarrowColumn = createContext(false);

const narrow = typeof matchMedia === "function" ? matchMedia("(max-width: 759px)") : null;

export function useNarrow(): boolean {
  const column = useContext(NarrowColumn);
  const page = useSyncExternalStore(
    (answer) => {
      narrow?.addEventListener("change", answer);
      return () => narrow?.removeEventListener("change", answer);
    },
    () => narrow?.matches ?? false,
  );
  return column || page;
}
