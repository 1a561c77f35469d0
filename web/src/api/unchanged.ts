import type { Middleware } from 'openapi-fetch'

/** How many answers are kept at hand. */
const MOST = 20

/**
 * Answers by their address, with the tags the server gave them; the oldest first. Not in the browser’s cache: it
 * would outlive the session.
 */
const atHand = new Map<string, { tag: string; body: string }>()

/** Forgets all answers, when somebody signs out. */
export const forgetAnswers = () => atHand.clear()

/** Asks for what is at hand only whether it has changed, and takes it from there when it has not (304, RFC 9110). */
export const unchanged: Middleware = {
  onRequest({ request }) {
    const known = request.method === 'GET' ? atHand.get(request.url) : undefined
    if (known) request.headers.set('If-None-Match', known.tag)
    return request
  },
  async onResponse({ request, response }) {
    const known = atHand.get(request.url)
    if (response.status === 304 && known)
      return new Response(known.body, { headers: { 'Content-Type': 'application/json' } })
    const tag = response.headers.get('ETag')
    if (request.method !== 'GET' || !response.ok || !tag) return undefined
    atHand.delete(request.url)
    atHand.set(request.url, { tag, body: await response.clone().text() })
    if (atHand.size > MOST) atHand.delete(atHand.keys().next().value!)
    return undefined
  },
}
