// Keeps the shell of the studio for a bad line: the page itself, which is asked anew first, and the built files, whose
// names hold a digest of what is in them. Nothing of a workspace is kept here.
const CACHE = 'shell-1'
const SHELL = '/'
// How long a bad line is waited for before the shell that is kept is shown, in milliseconds.
const WITHIN = 4000
// How many built files are kept: those of a few versions.
const MOST = 150

self.addEventListener('install', () => self.skipWaiting())
self.addEventListener('activate', (event) => event.waitUntil(takeOver()))
self.addEventListener('fetch', (event) => {
  const { request } = event
  const { origin, pathname } = new URL(request.url)
  if (request.method !== 'GET' || origin !== location.origin) return
  if (pathname.startsWith('/assets/')) event.respondWith(built(request))
  else if (request.mode === 'navigate' && !/^\/(api|media)\//.test(pathname)) event.respondWith(page(request))
})

async function takeOver() {
  for (const name of await caches.keys()) if (name !== CACHE) await caches.delete(name)
  await self.clients.claim()
}

async function built(request) {
  const cache = await caches.open(CACHE)
  const kept = await cache.match(request)
  if (kept) return kept
  const answer = await fetch(request)
  if (answer.ok) {
    await cache.put(request, answer.clone())
    const keys = await cache.keys()
    for (const old of keys.slice(0, Math.max(0, keys.length - MOST)))
      if (new URL(old.url).pathname !== SHELL) await cache.delete(old)
  }
  return answer
}

async function page(request) {
  const cache = await caches.open(CACHE)
  try {
    const answer = await fetch(request, { signal: AbortSignal.timeout(WITHIN) })
    if (answer.ok && !answer.redirected) await cache.put(SHELL, answer.clone())
    return answer
  } catch (error) {
    const kept = await cache.match(SHELL)
    if (kept) return kept
    throw error
  }
}
