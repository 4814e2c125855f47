/// <reference lib="webworker" />
// Keeps the shell and the last answers on the device, so that the page opens without signal.
import { cleanupOutdatedCaches, createHandlerBoundToURL, precacheAndRoute } from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";

declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: { url: string; revision: string | null }[] };
const DATA = "naveta-data";

precacheAndRoute(self.__WB_MANIFEST);
cleanupOutdatedCaches();
registerRoute(new NavigationRoute(createHandlerBoundToURL("index.html"), { denylist: [/^\/api\//] }));
registerRoute(({ url, request }) => url.pathname.startsWith("/api/") && request.method === "GET", ({ request }) => latest(request));

/** The house's answer, kept; without signal the last one kept; without either, an answer that says so. */
async function latest(request: Request): Promise<Response> {
  const cache = await caches.open(DATA);
  try {
    const response = await fetch(request);
    if (response.ok) await cache.put(request, response.clone());
    return response;
  } catch {
    return (await cache.match(request)) ?? new Response(null, { status: 503, headers: { "X-Naveta": "no-signal" } });
  }
}

self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));
self.addEventListener("message", (event) => {
  if (event.data === "take-over") void self.skipWaiting();
});
