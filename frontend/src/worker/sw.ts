/// <reference lib="webworker" />
// Keeps the phone's pages on the phone, so that they open where there is no signal. Only addresses below /field are
// its business: the office's pages always come from the server.

import { cleanupOutdatedCaches, createHandlerBoundToURL, precacheAndRoute } from 'workbox-precaching';
import { NavigationRoute, registerRoute } from 'workbox-routing';
import { StaleWhileRevalidate } from 'workbox-strategies';

declare const self: ServiceWorkerGlobalScope & {
  __WB_MANIFEST: (string | { url: string; revision: string | null })[];
};

cleanupOutdatedCaches();
precacheAndRoute(self.__WB_MANIFEST);
registerRoute(new NavigationRoute(createHandlerBoundToURL('/field'), { allowlist: [/^\/field(\/|$)/] }));
// The land and its roads: the same for everybody, and no secret. What people are about is kept sealed elsewhere.
registerRoute(
  ({ url }) => url.pathname.startsWith('/api/v1/roads/map/'),
  new StaleWhileRevalidate({ cacheName: 'map' }),
);

// A new version takes over when the page says that nothing is lost by it.
self.addEventListener('message', (event) => {
  if ((event.data as { type?: string } | null)?.type === 'SKIP_WAITING') void self.skipWaiting();
});
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));
