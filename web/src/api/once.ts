import type { Middleware } from 'openapi-fetch'

/** How long after the answer the same press is taken for a second one of the same, in milliseconds. */
const SAME_PRESS = 700

/** Keys of what was sent a moment ago, by what it was. */
const sent = new Map<string, { key: string; until: number }>()

/**
 * Gives every request that creates something a key, the same for the same request within a moment: a press that is
 * repeated on a slow line is done once, and gets the answer of the first.
 */
export const once: Middleware = {
  async onRequest({ request }) {
    // What was made may be undone by this: the same press is another one then.
    if (request.method === 'DELETE') forgetAnswered()
    const kind = request.headers.get('Content-Type') ?? 'application/json'
    if (request.method !== 'POST' || !kind.startsWith('application/json')) return
    const now = Date.now()
    const body = await request.clone().text()
    const what = `${request.url} ${body}`
    for (const [each, { until }] of sent) if (until < now) sent.delete(each)
    const key = sent.get(what)?.key ?? crypto.randomUUID()
    sent.set(what, { key, until: Infinity })
    whats.set(key, what)
    // Made anew of the text: the body of a request that was read once is a stream, which tools cannot look into.
    const keyed = new Request(request, body ? { body } : {})
    keyed.headers.set('Idempotency-Key', key)
    return keyed
  },
  onResponse({ request }) {
    end(request.headers.get('Idempotency-Key'))
  },
  onError({ request }) {
    end(request.headers.get('Idempotency-Key'))
  },
}

/** What somebody typed or chose since makes the next press another one, however soon it comes. */
function forgetAnswered() {
  for (const [each, { until }] of sent) if (until !== Infinity) sent.delete(each)
}
if (typeof document !== 'undefined') document.addEventListener('input', forgetAnswered, { capture: true })

const whats = new Map<string, string>()

/** Has the key hold for a moment longer, once the request is over. */
function end(key: string | null) {
  const what = key && whats.get(key)
  if (!what) return
  whats.delete(key)
  const known = sent.get(what)
  if (known) known.until = Date.now() + SAME_PRESS
}
