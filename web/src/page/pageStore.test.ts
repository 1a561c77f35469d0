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
  body: { revision: number; document: Document; steps: { key: string; name: string }[] }
}
/** The steps the server was told of. */
const told = () =>
  server.put.mock.calls.flatMap(([, put]) =>
    (put as Put).body.steps.map(({ key, name }) => ({ key, name, undone: false })),
  )

beforeEach(async () => {
  vi.resetAllMocks()
  setActivePinia(createPinia())
  server.get.mockImplementation((path: string) =>
    Promise.resolve(ok(path.endsWith('/steps') ? told() : page(1, 'first'))),
  )
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

  it('never lets an answer from before a save take back what was saved', async () => {
    const store = usePageStore()
    await store.open('p')
    let answer: (late: unknown) => void = () => {}
    server.get.mockReturnValueOnce(new Promise((resolve) => (answer = resolve)))
    const refreshing = store.refresh()
    server.put.mockResolvedValue(ok(page(2, 'second')))
    store.change('rename', rename('second'))
    await store.save()
    answer(ok(page(1, 'first')))
    await refreshing
    expect(store.document?.header.name).toBe('second')
    expect(store.state?.revision).toBe(2)
  })

  it('goes on saving a page while another is open, and never one over the other', async () => {
    const store = usePageStore()
    await store.open('p')
    let answer: (late: unknown) => void = () => {}
    server.put.mockReturnValueOnce(new Promise((resolve) => (answer = resolve)))
    store.change('rename', rename('mine'))
    const saving = store.save()
    server.get.mockImplementation((path: string) =>
      Promise.resolve(ok(path.endsWith('/steps') ? [] : { ...page(1, 'the other'), id: 'q' })),
    )
    await store.open('q')
    answer(refused(409, { current: page(7, 'theirs') }))
    await saving
    expect(server.put).toHaveBeenCalledTimes(1)
    expect(store.saving, 'of the other page').toBe('saved')
    expect(store.document?.header.name).toBe('the other')
    await store.open('p')
    expect(store.saving).toBe('conflict')
    expect(store.document?.header.name).toBe('mine')
  })

  it('keeps what was typed offline while another page is looked at', async () => {
    const store = usePageStore()
    await store.open('p')
    server.put.mockRejectedValue(new TypeError('Failed to fetch'))
    server.get.mockRejectedValue(new TypeError('Failed to fetch'))
    store.change('rename', rename('typed offline'))
    await store.save()
    await store.open('q')
    expect(store.missing).toContain('cannot be reached')
    await store.open('p')
    expect(store.document?.header.name).toBe('typed offline')
    expect(store.missing).toBe('')
    store.forget()
  })

  it('undoes here what was done here, and not what was done elsewhere meanwhile', async () => {
    const store = usePageStore()
    await store.open('p')
    server.put.mockResolvedValueOnce(
      refused(409, { current: { ...page(7, 'first'), document: { ...doc('first'), language: 'de' } } }),
    )
    server.put.mockImplementation((_: string, { body }: Put) =>
      Promise.resolve(ok({ ...page(body.revision + 1, ''), document: body.document })),
    )
    store.change('rename', rename('second'))
    await store.save()
    expect(store.document).toMatchObject({ language: 'de', header: { name: 'second' } })
    store.undo()
    await store.save()
    expect(store.document).toMatchObject({ language: 'de', header: { name: 'first' } })
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
    store.opened()?.fillIn('aaaa', ({ button }) => void (button!.title = 'Kiln'))
    store.undo()
    expect(store.document?.blocks[0]?.button?.title).toBe('Kiln')
    expect(store.undoable).toBe('Add')
    store.undo()
    expect(store.document?.blocks).toEqual([])
  })
})
