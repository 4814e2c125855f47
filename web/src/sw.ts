/// <reference lib="webworker" />
// Keeps the shell and the last answers on the device, so that the page opens without signal.
import { cleanupOutdatedCaches, createHandlerBoundToURL, precacheAndRoute } from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";

declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: { url: string; revision: string | null }[] };
const DATA = "naveta-data";
const CORE = "naveta-core";
/** Kept elsewhere, or never: the fleet lies in a store of its own, chains are looked through in the server. */
const PASSED_ON = new Set(["/api/device", "/api/health/chains"]);
const STORED_AT = "X-Naveta-Stored-At";
declare const __CORE_FOLDER__: string | null;

precacheAndRoute(self.__WB_MANIFEST);
cleanupOutdatedCaches();
registerRoute(new NavigationRoute(createHandlerBoundToURL("index.html"), { denylist: [/^\/api\//] }));
registerRoute(
  ({ url, request }) => url.pathname.startsWith("/api/") && !PASSED_ON.has(url.pathname) && request.method === "GET",
  ({ request }) => latest(request),
);

registerRoute(
  ({ url }) => url.pathname.startsWith("/core/") && !url.pathname.endsWith("pack.json"),
  ({ request }) => stored(request),
);

/** Python and the core: once fetched they are on the device; their folder's name changes with their contents. */
async function stored(request: Request): Promise<Response> {
  const cache = await caches.open(CORE);
  const found = await cache.match(request.url);
  if (found) return found;
  const response = await fetch(request);
  if (response.ok) await cache.put(request.url, response.clone()).catch(() => undefined);
  return response;
}

/** The server's answer, kept with the time it was given by the server's clock (this device's may be off); without signal the last one; without either, an answer that says so. */
async function latest(request: Request): Promise<Response> {
  const cache = await caches.open(DATA);
  try {
    const response = await fetch(request);
    if (response.ok) await keep(cache, request, response.clone());
    return response;
  } catch {
    return (await cache.match(request)) ?? new Response(null, { status: 503, headers: { "X-Naveta": "no-signal" } });
  }
}

async function keep(cache: Cache, request: Request, response: Response): Promise<void> {
  const headers = new Headers(response.headers);
  headers.set(STORED_AT, response.headers.get("X-Naveta-Now") ?? new Date().toISOString());
  // A full device keeps what it has; the answer itself still reaches the page.
  await cache
    .put(request, new Response(await response.blob(), { status: response.status, headers }))
    .catch(() => undefined);
}

/** Another version of the core has another folder: the old one is not needed any more. */
async function clearCore(): Promise<void> {
  const cache = await caches.open(CORE);
  for (const request of await cache.keys())
    if (!request.url.includes(`/core/${__CORE_FOLDER__}/`)) await cache.delete(request);
}

self.addEventListener("activate", (event) => event.waitUntil(Promise.all([self.clients.claim(), clearCore()])));
self.addEventListener("message", (event) => {
  if (event.data === "take-over") void self.skipWaiting();
});
