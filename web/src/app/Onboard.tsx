// What a person needs without signal is fetched once through the service worker, so that it is on the device: also
// on the very first visit, whose own requests went out before the worker was there.
import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { kindsQuery, yardQuery } from "../api/queries";
import { useHere } from "./session";

export function Onboard() {
  const { person } = useHere();
  const client = useQueryClient();
  const owner = person?.username;
  useEffect(() => {
    if (!owner || !("serviceWorker" in navigator)) return;
    const fetchAll = () => {
      void client.refetchQueries({ queryKey: ["session"] });
      void client.fetchQuery({ ...kindsQuery, staleTime: 0 }).catch(() => undefined);
      void client.fetchInfiniteQuery({ ...yardQuery(""), staleTime: 0 }).catch(() => undefined);
    };
    if (navigator.serviceWorker.controller) fetchAll();
    navigator.serviceWorker.addEventListener("controllerchange", fetchAll);
    return () => navigator.serviceWorker.removeEventListener("controllerchange", fetchAll);
  }, [owner, client]);
  return null;
}
