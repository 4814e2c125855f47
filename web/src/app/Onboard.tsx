// What a person needs without signal is fetched once through the service worker, so that it is on the device: also
// on the very first visit, whose own requests went out before the worker was there.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { deviceQuery, kindsQuery } from "../api/queries";
import { engine } from "../engine/engine";
import { storeFleet } from "../engine/instrumentContext";
import { firstScreen } from "../hooks/firstScreen";
import { prefetch } from "./prefetch";
import { useHere } from "./session";
import { after, idle, pause } from "../timers";

const quiet = (): Promise<void> => firstScreen.then(idle);

/** The service worker holds this page, or will not come. */
function held(): Promise<void> {
  return new Promise((done) => {
    if (!("serviceWorker" in navigator) || navigator.serviceWorker.controller) return done();
    navigator.serviceWorker.addEventListener("controllerchange", () => done(), { once: true });
    after("serviceWorker", done);
  });
}

/**
 * The core is large: it starts once the first screen stands, the browser has nothing better to do, and the service
 * worker is there to keep its files (a worker started before that fetches past it).
 */
async function bootLater(): Promise<void> {
  await quiet();
  await held();
  engine.start();
  await engine.whenReady().catch(() => undefined);
  if ("serviceWorker" in navigator && navigator.serviceWorker.controller) await engine.storeOnDevice();
  document.documentElement.dataset.coreStored = "yes";
}

export function Onboard() {
  const { person } = useHere();
  const client = useQueryClient();
  const owner = person?.username;
  const crew = person?.crew ?? null;
  const [later, setLater] = useState(false);
  useEffect(() => void quiet().then(() => setLater(true)), []);
  const device = useQuery({ ...deviceQuery, enabled: Boolean(owner) && later });
  useEffect(() => storeFleet(device.data ?? []), [device.data]);
  useEffect(() => {
    const answer = () => void (document.documentElement.dataset.core = engine.state);
    const forget = engine.onChange(answer);
    void bootLater();
    return forget;
  }, []);
  useEffect(() => {
    if (!owner || !later || !("serviceWorker" in navigator)) return;
    let callOff = (): void => undefined;
    let left = false;
    const fetchAll = async () => {
      // What is under way went out before the worker was there: it would come in past it, and not be kept.
      while (client.isFetching() > 0) await pause("underWay");
      void client.refetchQueries({ queryKey: ["session"] });
      void client.fetchQuery({ ...kindsQuery, staleTime: 0 }).catch(() => undefined);
      void client.fetchQuery({ ...deviceQuery, staleTime: 0 }).catch(() => undefined);
      // It ends at the first that is not answered: the rest is fetched a minute later.
      await prefetch(client, owner, crew).catch(() => {
        if (!left) callOff = after("prefetchAgain", again);
      });
    };
    const again = () => {
      callOff();
      void fetchAll();
    };
    if (navigator.serviceWorker.controller) again();
    navigator.serviceWorker.addEventListener("controllerchange", again);
    return () => {
      left = true;
      callOff();
      navigator.serviceWorker.removeEventListener("controllerchange", again);
    };
  }, [owner, crew, client, later]);
  return null;
}
