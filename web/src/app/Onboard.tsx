// What a person needs without signal is fetched once through the service worker, so that it is on the device: also
// on the very first visit, whose own requests went out before the worker was there.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { deviceQuery, instrumentQuery, kindsQuery, yardQuery } from "../api/queries";
import { engine } from "../core/engine";
import { keepKnown } from "../core/known";
import { useHere } from "./session";

export function Onboard() {
  const { person } = useHere();
  const client = useQueryClient();
  const owner = person?.username;
  const device = useQuery({ ...deviceQuery, enabled: Boolean(owner) });
  useEffect(() => keepKnown(device.data?.fleet ?? []), [device.data]);
  useEffect(() => {
    // The core is large: it starts once the first screen stands and the browser has nothing better to do.
    const told = () => void (document.documentElement.dataset.core = engine.state);
    const forget = engine.onChange(told);
    const start = () => engine.start();
    if ("requestIdleCallback" in window) requestIdleCallback(start, { timeout: 4000 });
    else setTimeout(start, 2000);
    return forget;
  }, []);
  useEffect(() => {
    if (!owner || !("serviceWorker" in navigator)) return;
    const fetchAll = async () => {
      void client.refetchQueries({ queryKey: ["session"] });
      void client.fetchQuery({ ...kindsQuery, staleTime: 0 }).catch(() => undefined);
      void client.fetchQuery({ ...deviceQuery, staleTime: 0 }).catch(() => undefined);
      const yard = await client.fetchInfiniteQuery({ ...yardQuery(""), staleTime: 0 }).catch(() => null);
      for (const row of yard?.pages.flatMap((page) => page.instruments) ?? []) await client.prefetchQuery({ ...instrumentQuery(row.tag), staleTime: 300_000 });
    };
    const again = () => void fetchAll();
    if (navigator.serviceWorker.controller) again();
    navigator.serviceWorker.addEventListener("controllerchange", again);
    return () => navigator.serviceWorker.removeEventListener("controllerchange", again);
  }, [owner, client]);
  return null;
}
