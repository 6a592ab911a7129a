/// <reference lib="webworker" />

// The service worker of who asked for it under Settings: it keeps the page and what was
// read last, so that both open while the server does not answer. What comes from here is
// marked with when it was read. Only reading goes through it; nothing is ever sent by it.

import { ExpirationPlugin } from 'workbox-expiration'
import { registerRoute } from 'workbox-routing'
import { CacheFirst, NetworkFirst } from 'workbox-strategies'

import { lastCache, readHeader, shellCache, shellList } from './workerNames'

declare const self: ServiceWorkerGlobalScope

const patience = 5 // seconds that a server is waited for before what was read last stands in

/** Files of the page have a hash in their names: what has one of an older page goes. */
async function fillShell() {
  const files = (await (await fetch(shellList, { cache: 'no-cache' })).json()) as string[]
  const cache = await caches.open(shellCache)
  const kept = new Set((await cache.keys()).map((r) => new URL(r.url).pathname))
  await cache.addAll(files.filter((f) => !kept.has(f)))
  await cache.add('/')
  const now = new Set(['/', ...files])
  await Promise.all([...kept].filter((f) => !now.has(f)).map((f) => cache.delete(f)))
}

self.addEventListener('install', (e) => {
  e.waitUntil(fillShell().then(() => self.skipWaiting()))
})
self.addEventListener('activate', (e) => {
  e.waitUntil(self.clients.claim())
})

/** An answer of a proxy, or of a server without its database, is as good as none. */
const answered = {
  fetchDidSucceed: ({ response }: { response: Response }) => {
    if ([502, 503, 504].includes(response.status))
      throw new TypeError(`the server is away: ${response.status}`)
    return Promise.resolve(response)
  },
}

/** Says of what was kept when it was read. */
const marked = {
  cachedResponseWillBeUsed: ({ cachedResponse }: { cachedResponse?: Response }) => {
    if (!cachedResponse) return Promise.resolve(cachedResponse)
    const headers = new Headers(cachedResponse.headers)
    headers.set(readHeader, cachedResponse.headers.get('Date') ?? '')
    return Promise.resolve(new Response(cachedResponse.body, { status: cachedResponse.status, headers }))
  },
}

registerRoute(({ url }) => url.pathname.startsWith('/assets/'), new CacheFirst({ cacheName: shellCache }))

registerRoute(
  ({ request }) => request.mode === 'navigate',
  new NetworkFirst({
    cacheName: shellCache,
    networkTimeoutSeconds: patience,
    matchOptions: { ignoreVary: true },
    plugins: [answered, { cacheKeyWillBeUsed: () => Promise.resolve('/') }], // every view is one page
  }),
)

// streams have no end, and whether the server is well is asked of itself
const never = ['/api/events', '/api/scale/stream', '/api/export', '/api/health', '/api/setup']
registerRoute(
  ({ url, request }) =>
    request.method === 'GET' && url.pathname.startsWith('/api/') && !never.includes(url.pathname),
  new NetworkFirst({
    cacheName: lastCache,
    networkTimeoutSeconds: patience,
    matchOptions: { ignoreVary: true },
    plugins: [answered, marked, new ExpirationPlugin({ maxEntries: 600, maxAgeSeconds: 30 * 24 * 3600 })],
  }),
)
