import { beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import type { ListedLink } from '@/api/client'
import { useShortLink } from './useShortLink'

const put = vi.fn()
vi.mock('@/api/client', async (original) => ({
  ...(await original<typeof import('@/api/client')>()),
  api: { PUT: (...args: unknown[]) => put(...args) },
}))
vi.mock('@tanstack/vue-query', () => ({ useQueryClient: () => ({ invalidateQueries: vi.fn() }) }))

const listed = (id: string, revision = 1, note = '') =>
  ({
    id,
    revision,
    address: id,
    link: { destination: 'https://kiln.example/', note, labels: [] },
  }) as unknown as ListedLink
const ok = (data: unknown) => ({ data, response: new Response(null, { status: 200 }) })
const refused = (status: number, error: unknown) => ({ error, response: new Response(null, { status }) })
interface Put {
  params: { path: { link: string } }
  body: { revision: number; link: ListedLink['link'] }
}
const accept = (_: string, { params, body }: Put) =>
  Promise.resolve(ok({ ...listed(params.path.link, body.revision + 1), link: body.link }))

/** A link that is open, out of a list that may change under it. */
function open(first: ListedLink) {
  const from = ref(first)
  const scope = effectScope()
  const link = scope.run(() => useShortLink(() => from.value))!
  return { from, link, close: () => scope.stop() }
}

beforeEach(() => {
  put.mockReset()
  put.mockImplementation(accept)
})

describe('a short link that is open', () => {
  it('saves each change on the revision the last save gave', async () => {
    const { link } = open(listed('spring'))
    link.set({ note: 'one' })
    await link.save()
    link.set({ note: 'two' })
    await link.save()
    expect(put.mock.calls.map(([, { body }]) => [body.revision, body.link.note])).toEqual([
      [1, 'one'],
      [2, 'two'],
    ])
  })

  it('keeps what is typed when the list comes anew', async () => {
    const { from, link } = open(listed('spring'))
    link.set({ note: 'typing' })
    from.value = listed('spring', 4, 'from elsewhere')
    await nextTick()
    expect(link.words.value?.note).toBe('typing')
  })

  it('takes what was changed elsewhere while nothing is typed', async () => {
    const { from, link } = open(listed('spring'))
    from.value = listed('spring', 2, 'from elsewhere')
    await nextTick()
    expect(link.words.value?.note).toBe('from elsewhere')
  })

  it('says at its field what cannot be kept, and keeps it as it was typed', async () => {
    put.mockResolvedValue(refused(422, { detail: 'No web address.', errors: [{ location: 'windows/0/to' }] }))
    const { link } = open(listed('spring'))
    link.set({ destination: 'nonsense' })
    await link.save()
    expect(link.about('windows')).toBe('No web address.')
    expect(link.about('destination')).toBeUndefined()
    expect(link.words.value?.destination).toBe('nonsense')
  })

  it('saves again what the server was not there to take', async () => {
    vi.useFakeTimers()
    put.mockRejectedValueOnce(new TypeError('Failed to fetch'))
    const { link } = open(listed('spring'))
    link.set({ note: 'mine' })
    await link.save()
    expect(link.elsewhere.value).toContain('cannot be reached')
    await vi.advanceTimersByTimeAsync(2500)
    vi.useRealTimers()
    expect(put.mock.lastCall?.[1].body.link.note).toBe('mine')
    expect(put).toHaveBeenCalledTimes(2)
    expect(link.elsewhere.value).toBeUndefined()
  })

  it('shows the link as it stands when somebody else changed it first', async () => {
    put.mockResolvedValue(
      refused(409, { detail: 'Changed elsewhere.', current: listed('spring', 7, 'theirs') }),
    )
    const { link } = open(listed('spring'))
    link.set({ note: 'mine' })
    await link.save()
    expect(link.words.value?.note).toBe('theirs')
    expect(link.elsewhere.value).toBe('Changed elsewhere.')
  })

  it('saves what was typed before another link is opened, and before it is left', async () => {
    const { from, link, close } = open(listed('spring'))
    link.set({ note: 'for spring' })
    from.value = listed('summer')
    await nextTick()
    link.set({ note: 'for summer' })
    await vi.waitFor(() => expect(put).toHaveBeenCalledTimes(1))
    await nextTick()
    close()
    await vi.waitFor(() => expect(put).toHaveBeenCalledTimes(2))
    expect(put.mock.calls.map(([, { params, body }]) => [params.path.link, body.link.note])).toEqual([
      ['spring', 'for spring'],
      ['summer', 'for summer'],
    ])
  })
})
