/// <reference lib="webworker" />
import { clientsClaim } from "workbox-core";
import { ExpirationPlugin } from "workbox-expiration";
import { cleanupOutdatedCaches, matchPrecache, precacheAndRoute, type PrecacheEntry } from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";
import { NetworkFirst, NetworkOnly } from "workbox-strategies";
import { ANSWERS, FRESH } from "../api/answers";

/** What opens without the network: the shell always, and of the server's answers those that were looked at last. */
declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: (PrecacheEntry | string)[] };

const MOST_ANSWERS = 300;
const PATIENCE_S = 4;

void self.skipWaiting();
clientsClaim();
cleanupOutdatedCaches();
precacheAndRoute(self.__WB_MANIFEST);

const page = new NetworkOnly({ networkTimeoutSeconds: PATIENCE_S });
registerRoute(
  new NavigationRoute(
    async (options) => {
      try {
        return await page.handle(options);
      } catch (error) {
        const shell = await matchPrecache("/index.html");
        if (!shell) throw error;
        return shell;
      }
    },
    { denylist: [/^\/api\//, /^\/pair/] },
  ),
);

registerRoute(
  ({ url, request }) => url.origin === self.location.origin && request.method === "GET" && url.pathname.startsWith("/api/") && !FRESH.test(url.pathname),
  new NetworkFirst({
    cacheName: ANSWERS,
    plugins: [
      new ExpirationPlugin({ maxEntries: MOST_ANSWERS }),
      {
        // Whoever is shut out keeps nothing of the yard.
        fetchDidSucceed: async ({ response }) => {
          if (response.status === 403) await caches.delete(ANSWERS);
          return response;
        },
      },
    ],
  }),
);

self.addEventListener("notificationclick", (event) => {
  event.notification.close();
  const address = String((event.notification.data as { address?: string } | null)?.address ?? "/");
  event.waitUntil(
    self.clients.matchAll({ type: "window" }).then((open) => {
      const here = open.find((one) => new URL(one.url).pathname === address);
      return here ? here.focus() : self.clients.openWindow(address);
    }),
  );
});
