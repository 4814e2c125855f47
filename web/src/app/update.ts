// The service worker: registered once; a newer version waits until it is taken, never in the middle of an entry.
import { useSyncExternalStore } from "react";
import { firstScreen } from "../hooks/firstScreen";
import { pause } from "../timers";

let waiting: ServiceWorker | null = null;
const listeners = new Set<() => void>();

/** What it stores is the whole program: the first screen goes before. */
const quiet = (): Promise<void> => (navigator.serviceWorker.controller ? Promise.resolve() : firstScreen);

/** The signal can go before the script is fetched: no fault, and the page works on; it is asked for again. */
const register = (): Promise<ServiceWorkerRegistration> =>
  navigator.serviceWorker.register("/sw.js").catch(() => pause("registerAgain").then(register));

export function registerWorker(): void {
  if (!("serviceWorker" in navigator) || import.meta.env.DEV) return;
  void quiet()
    .then(register)
    .then((registration) => {
      const look = () => {
        waiting = navigator.serviceWorker.controller ? registration.waiting : null;
        for (const listener of listeners) listener();
      };
      look();
      registration.addEventListener("updatefound", () =>
        registration.installing?.addEventListener("statechange", look),
      );
    });
}

export function useUpdate(): boolean {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => waiting !== null,
  );
}

export function takeUpdate(): void {
  navigator.serviceWorker.addEventListener("controllerchange", () => location.reload());
  waiting?.postMessage("take-over");
}
