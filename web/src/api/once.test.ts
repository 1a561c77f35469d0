// @vitest-environment happy-dom
import { afterEach, describe, expect, it, vi } from 'vitest'
import { once } from './once'

type Hook = Parameters<NonNullable<typeof once.onRequest>>[0]
const request = (body: string, method = 'POST') =>
  new Request('https://studio.example/api/short-links', {
    method,
    body: body || undefined,
    headers: { 'Content-Type': 'application/json' },
  })
async function sent(of: Request) {
  const keyed = (await once.onRequest?.({ request: of } as Hook)) as Request | undefined
  return { key: keyed?.headers.get('Idempotency-Key'), keyed: keyed as Request }
}
const answered = (of: Request) =>
  once.onResponse?.({ request: of, response: new Response() } as Parameters<
    NonNullable<typeof once.onResponse>
  >[0])

describe('a press', () => {
  afterEach(() => void vi.useRealTimers())

  it('that is repeated before the answer has the key of the first, and for a moment after it', async () => {
    vi.useFakeTimers()
    const first = request('{"a":1}')
    const { key, keyed } = await sent(first)
    expect(key).toBeTruthy()
    expect(await keyed.clone().text()).toBe('{"a":1}')
    expect((await sent(request('{"a":1}'))).key).toBe(key)
    expect((await sent(request('{"a":2}'))).key).not.toBe(key)
    answered(keyed)
    vi.advanceTimersByTime(300)
    expect((await sent(request('{"a":1}'))).key).toBe(key)
  })

  it('later on is another one', async () => {
    vi.useFakeTimers()
    const first = request('{"b":1}')
    const { key, keyed } = await sent(first)
    answered(keyed)
    vi.advanceTimersByTime(2_000)
    expect((await sent(request('{"b":1}'))).key).not.toBe(key)
  })

  it('after something was typed is another one, unless the first has no answer yet', async () => {
    const { key, keyed } = await sent(request('{"c":1}'))
    document.dispatchEvent(new Event('input'))
    expect((await sent(request('{"c":1}'))).key).toBe(key)
    answered(keyed)
    document.dispatchEvent(new Event('input'))
    expect((await sent(request('{"c":1}'))).key).not.toBe(key)
  })

  it('after something was undone is another one', async () => {
    const { key, keyed } = await sent(request('{"d":1}'))
    answered(keyed)
    await sent(request('', 'DELETE'))
    expect((await sent(request('{"d":1}'))).key).not.toBe(key)
  })

  it('that only asks has none', async () => {
    expect((await sent(request('', 'GET'))).key).toBeUndefined()
  })
})
