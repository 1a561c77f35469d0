import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Document, PageState } from '@/api/client'
import { usePageStore } from './pageStore'

const server = { put: vi.fn(), get: vi.fn(), post: vi.fn() }
vi.mock('@/api/client', async (original) => ({
  ...(await original<typeof import('@/api/client')>()),
  api: {
    GET: (...args: unknown[]) => server.get(...args),
    PUT: (...args: unknown[]) => server.put(...args),
    POST: (...args: unknown[]) => server.post(...args),
  },
}))

const doc = (name: string) => ({ header: { name, line: '' }, blocks: [] }) as unknown as Document
const page = (revision: number, name: string) => ({
  id: 'p', address: 'quarrow-clay', revision, document: doc(name), strip: { header: '', blocks: {} }, liveEdition: 0, changes: [],
}) as unknown as PageState // prettier-ignore
const ok = (data: unknown) => ({ data, response: new Response(null, { status: 200 }) })
const refused = (status: number, error: unknown) => ({ error, response: new Response(null, { status }) })
const rename = (name: string) => (draft: Document) => void (draft.header.name = name)
interface Put {
  body: { revision: number; document: Document }
}

beforeEach(async () => {
  vi.resetAllMocks()
  setActivePinia(createPinia())
  server.get.mockResolvedValue(ok(page(1, 'first')))
})

describe('the page store', () => {
  it('saves each change on the revision the last save gave', async () => {
    server.put.mockImplementation((_: string, { body }: Put) =>
      Promise.resolve(ok(page(body.revision + 1, body.document.header.name))),
    )
    const store = usePageStore()
    await store.open('p')
    store.change('rename', rename('second'))
    await store.save()
    store.change('rename', rename('third'))
    await store.save()
    expect(server.put.mock.calls.map(([, { body }]) => [body.revision, body.document.header.name])).toEqual([
      [1, 'second'],
      [2, 'third'],
    ])
    expect(store.saving).toBe('saved')
  })

  it('never lets an answer overwrite what was typed in the meantime', async () => {
    const store = usePageStore()
    await store.open('p')
    server.put.mockImplementation(async (_: string, { body }: Put) => {
      if (body.revision === 1) store.change('rename', rename('typed while saving'))
      return ok(page(body.revision + 1, body.document.header.name))
    })
    store.change('rename', rename('second'))
    await store.save()
    expect(store.document?.header.name).toBe('typed while saving')
    expect(server.put).toHaveBeenCalledTimes(2)
  })

  it('keeps what was written when somebody else was faster, and lets the creator choose', async () => {
    const store = usePageStore()
    await store.open('p')
    server.put.mockResolvedValueOnce(
      refused(409, { detail: 'changed elsewhere', current: page(7, 'theirs') }),
    )
    store.change('rename', rename('mine'))
    await store.save()
    expect(store.saving).toBe('refused')
    expect(store.document?.header.name).toBe('mine')
    expect(store.newer?.document.header.name).toBe('theirs')

    server.put.mockResolvedValueOnce(ok(page(8, 'mine')))
    await store.keepMine()
    expect(server.put.mock.lastCall?.[1].body.revision).toBe(7)
    expect(store.saving).toBe('saved')
  })

  it('tries again by itself when the server cannot be reached', async () => {
    vi.useFakeTimers()
    const store = usePageStore()
    await store.open('p')
    server.put
      .mockRejectedValueOnce(new TypeError('fetch failed'))
      .mockResolvedValueOnce(ok(page(2, 'second')))
    store.change('rename', rename('second'))
    await vi.waitFor(() => expect(store.saving).toBe('waiting'))
    await vi.runAllTimersAsync()
    expect(store.saving).toBe('saved')
    vi.useRealTimers()
  })

  it('undoes and redoes, and saves that too', async () => {
    server.put.mockImplementation((_: string, { body }: Put) =>
      Promise.resolve(ok(page(body.revision + 1, body.document.header.name))),
    )
    const store = usePageStore()
    await store.open('p')
    store.change('Rename the page', rename('second'))
    expect(store.undoable).toBe('Rename the page')
    store.undo()
    await store.save()
    expect(store.document?.header.name).toBe('first')
    store.redo()
    await store.save()
    expect(server.put.mock.lastCall?.[1].body.document.header.name).toBe('second')
  })

  it('takes no step for a change that changes nothing', async () => {
    const store = usePageStore()
    await store.open('p')
    store.change('rename', rename('first'))
    expect(store.undoable).toBeUndefined()
    expect(server.put).not.toHaveBeenCalled()
  })

  it('publishes the revision whose words were read, and no later one', async () => {
    server.put.mockImplementation((_: string, { body }: Put) =>
      Promise.resolve(ok(page(body.revision + 1, body.document.header.name))),
    )
    server.post.mockResolvedValue(ok({ ...page(2, 'second'), liveEdition: 1 }))
    const store = usePageStore()
    await store.open('p')
    store.change('rename', rename('second'))
    await expect(store.publish()).rejects.toThrow('Above is what publishing it would change now')
    expect(server.post).not.toHaveBeenCalled()
    await store.publish()
    expect(server.post.mock.lastCall?.[1].body.revision).toBe(2)
    expect(store.state?.liveEdition).toBe(1)
  })

  it('fills in what a site says without a step of its own, and undoing something else keeps it', async () => {
    server.put.mockImplementation((_: string, { body }: Put) =>
      Promise.resolve(ok({ ...page(body.revision + 1, ''), document: body.document })),
    )
    const store = usePageStore()
    await store.open('p')
    const block = {
      key: 'aaaa',
      kind: 'button' as const,
      shown: true,
      button: { title: 'kiln.example', address: '' },
    }
    store.change('Add', (draft) => void draft.blocks.push(block))
    store.change('Rename', rename('second'))
    store.fillIn('aaaa', ({ button }) => void (button!.title = 'Kiln'))
    store.undo()
    expect(store.document?.blocks[0]?.button?.title).toBe('Kiln')
    expect(store.undoable).toBe('Add')
    store.undo()
    expect(store.document?.blocks).toEqual([])
  })
})
