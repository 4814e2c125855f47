// Search parameters of the address. Changes start from the current address, not from the last render: two changes before the
// next render, as on a slow device, are both kept.
import { useCallback } from "react";
import { useSearchParams } from "react-router";

type Change = (now: URLSearchParams) => URLSearchParams;

/** `replace`: whether the change replaces the current entry of the browser's history. */
export function useAddress(): [URLSearchParams, (change: Change, replace?: boolean) => void] {
  const [params, setParams] = useSearchParams();
  const set = useCallback(
    (change: Change, replace = true) => setParams(change(new URLSearchParams(window.location.search)), { replace }),
    [setParams],
  );
  return [params, set];
}
