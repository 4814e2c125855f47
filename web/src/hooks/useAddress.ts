// The parameters of the address, changed from what the address is now: two changes before the page is drawn again, as on a
// slow device, lose nothing.
import { useCallback } from "react";
import { useSearchParams } from "react-router";

type Change = (now: URLSearchParams) => URLSearchParams;

/** `replace`: the step before stays where a step back leads to. */
export function useAddress(): [URLSearchParams, (change: Change, replace?: boolean) => void] {
  const [params, setParams] = useSearchParams();
  const set = useCallback(
    (change: Change, replace = true) => setParams(change(new URLSearchParams(window.location.search)), { replace }),
    [setParams],
  );
  return [params, set];
}
