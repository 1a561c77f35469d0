import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import type { ListedLink } from '@/api/client'
import { forgetEditing } from '@/saving/editing'
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
  setActivePinia(createPinia())
  forgetEditing()
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
    expect(link.content.value?.note).toBe('typing')
  })

  it('takes what was changed elsewhere while nothing is typed', async () => {
    const { from, link } = open(listed('spring'))
    from.value = listed('spring', 2, 'from elsewhere')
    await nextTick()
    expect(link.content.value?.note).toBe('from elsewhere')
  })

  it('says at its field what cannot be kept, keeps it as it was typed, and saves all else', async () => {
    put.mockImplementation((path: string, given: Put) =>
      given.body.link.destination === 'nonsense'
        ? Promise.resolve(refused(422, { detail: 'No.', errors: [{ location: 'destination', message: 'No web address.' }] }))
        : accept(path, given),
    ) // prettier-ignore
    const { link } = open(listed('spring'))
    link.set({ destination: 'nonsense' })
    link.set({ note: 'typed later' })
    await link.save()
    expect(link.about('destination')).toBe('No web address.')
    expect(link.about('windows')).toBeUndefined()
    expect(link.content.value).toMatchObject({ destination: 'nonsense', note: 'typed later' })
    const { body } = put.mock.lastCall?.[1] as Put
    expect(body).toMatchObject({ link: { destination: 'https://kiln.example/', note: 'typed later' } })
    expect(link.standing.value).toBe('refused')
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

  it('keeps both what is typed and what somebody else changed', async () => {
    const theirs = { ...listed('spring', 7), link: { ...listed('spring').link, name: 'theirs' } }
    put.mockResolvedValueOnce(refused(409, { detail: 'Changed elsewhere.', current: theirs }))
    const { link } = open(listed('spring'))
    link.set({ note: 'mine' })
    await link.save()
    expect(link.content.value).toMatchObject({ name: 'theirs', note: 'mine' })
    expect(link.standing.value).toBe('saved')
  })

  it('goes on with what is typed while a save runs, also once another link is open', async () => {
    let answer: (late: unknown) => void = () => {}
    put.mockReturnValueOnce(new Promise((resolve) => (answer = resolve)))
    const { from, link } = open(listed('spring'))
    link.set({ note: 'one' })
    const saving = link.save()
    await vi.waitFor(() => expect(put).toHaveBeenCalledTimes(1))
    link.set({ note: 'one and more' })
    from.value = listed('summer')
    await nextTick()
    answer(ok({ ...listed('spring', 2), link: { ...listed('spring').link, note: 'one' } }))
    await saving
    await vi.waitFor(() => expect(put).toHaveBeenCalledTimes(2))
    expect(put.mock.lastCall?.[1]).toMatchObject({
      params: { path: { link: 'spring' } },
      body: { revision: 2, link: { note: 'one and more' } },
    })
    expect(link.content.value?.note).toBe('')
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
