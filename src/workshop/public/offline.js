/**
 * Opens the workshop from the browser's own copy while the receiver is out of reach. Touches nothing but the
 * workshop's places and its built files: answers, landing pages and the API always come from the receiver.
 * The copy itself is kept by src/workshop/offline.ts.
 */
const COPY = 'ask-box-workshop'
const PLACES = /^\/($|new$|forms\/|lists(\/|$)|mail-room$|results(\/|$)|sites$|settings$|connections(\/|$))/

self.addEventListener('install', () => self.skipWaiting())
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()))
self.addEventListener('fetch', (event) => {
  const { request } = event
  const { origin, pathname } = new URL(request.url)
  if (request.method !== 'GET' || origin !== self.location.origin) return
  if (request.mode === 'navigate' && PLACES.test(pathname)) {
    event.respondWith(fetch(request).catch(async () => (await caches.match('/')) ?? Response.error()))
  } else if (pathname.startsWith('/assets/')) {
    event.respondWith(builtFile(request))
  }
})

/** Built files are named after their content, so a copy is never out of date. */
async function builtFile(request) {
  const copy = await caches.match(request)
  if (copy) return copy
  const response = await fetch(request)
  if (response.ok) await (await caches.open(COPY)).put(request, response.clone())
  return response
}
