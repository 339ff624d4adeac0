/// <reference lib="webworker" />
import { clientsClaim } from 'workbox-core'
import { ExpirationPlugin } from 'workbox-expiration'
import { cleanupOutdatedCaches, matchPrecache, precacheAndRoute } from 'workbox-precaching'
import { NavigationRoute, registerRoute } from 'workbox-routing'
import { NetworkFirst, NetworkOnly } from 'workbox-strategies'
import { isKept, KEPT_ANSWERS, markedAsKept } from './keptAnswers'

declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: { url: string; revision: string | null }[] }

const TWO_DAYS_S = 2 * 24 * 3600
const MOST_ANSWERS = 300

// The newest at once: a page that is open finds what it loads later on the server, or reloads (see main.tsx).
void self.skipWaiting()
clientsClaim()
cleanupOutdatedCaches()
precacheAndRoute(self.__WB_MANIFEST)

// The server's own page where it answers, so that a new version is seen at once; else the kept one.
const page = new NetworkOnly({ plugins: [{ handlerDidError: () => matchPrecache('/index.html') }] })
registerRoute(new NavigationRoute(page, { denylist: [/^\/api\//, /^\/phone\//] }))

registerRoute(
  ({ url, request, sameOrigin }) => sameOrigin && request.method === 'GET' && isKept(url.pathname),
  new NetworkFirst({
    cacheName: KEPT_ANSWERS,
    plugins: [
      new ExpirationPlugin({ maxEntries: MOST_ANSWERS, maxAgeSeconds: TWO_DAYS_S, purgeOnQuotaError: true }),
      {
        cachedResponseWillBeUsed: ({ cachedResponse }) =>
          Promise.resolve(cachedResponse && markedAsKept(cachedResponse)),
      },
    ],
  }),
)
