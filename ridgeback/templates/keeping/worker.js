// Keeps the round and what it needs for when there is no network; pages of other kinds are never kept.
{% for library in libraries %}importScripts("{{ library }}");
{% endfor %}
const SHELL = [{% for file in shell %}"{{ file }}", {% endfor %}];
const { registerRoute, setCatchHandler } = workbox.routing;
const { NetworkFirst, StaleWhileRevalidate } = workbox.strategies;

self.addEventListener("install", (event) => {
  event.waitUntil(caches.open("ridgeback-shell").then((cache) => cache.addAll(SHELL)));
  self.skipWaiting();
});
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

// A round that was answered by the sign-in is no round.
const own = {
  cacheWillUpdate: async ({ response }) => (response.ok && !response.redirected ? response : null),
};
registerRoute(
  ({ url, request }) => url.pathname === "/round/" && request.method === "GET",
  new NetworkFirst({ cacheName: "ridgeback-round", networkTimeoutSeconds: 4, plugins: [own], matchOptions: { ignoreVary: true } }),
);
registerRoute(({ url }) => url.pathname.startsWith("/static/"), new StaleWhileRevalidate({ cacheName: "ridgeback-shell" }));
// Whatever went wrong on the way to a page: the round that is kept is shown.
setCatchHandler(async ({ request }) => {
  const kept = request.mode === "navigate" && (await caches.match("/round/", { ignoreVary: true, ignoreSearch: true }));
  return kept || Response.error();
});
