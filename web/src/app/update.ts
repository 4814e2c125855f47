// The service worker: registered once; a newer version waits until it is taken, never in the middle of an entry.
import { useSyncExternalStore } from "react";

let waiting: ServiceWorker | null = null;
const listeners = new Set<() => void>();

export function registerWorker(): void {
  if (!("serviceWorker" in navigator) || import.meta.env.DEV) return;
  void navigator.serviceWorker.register("/sw.js").then((registration) => {
    const look = () => {
      waiting = navigator.serviceWorker.controller ? registration.waiting : null;
      for (const listener of listeners) listener();
    };
    look();
    registration.addEventListener("updatefound", () => registration.installing?.addEventListener("statechange", look));
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
