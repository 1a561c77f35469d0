import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Block, Document, PageState } from '@/api/client'
import { KINDS, type KindEntry } from '@/kinds/registry'
import { usePageStore } from '@/page/pageStore'
import { useBlocks } from './useBlocks'

const server = vi.hoisted(() => ({ get: vi.fn(), put: vi.fn() }))
vi.mock('@/api/client', async (original) => ({
  ...(await original<typeof import('@/api/client')>()),
  api: { GET: server.get, PUT: server.put },
}))
vi.mock('@/shell/useZone', () => ({ useZone: () => ({ value: 'UTC' }) }))

const button = (key: string, title: string, shown = true): Block => ({
  key,
  kind: 'button',
  shown,
  button: { title, address: 'https://kiln.example/' },
})
const said = vi.fn()
const heading = KINDS.find((each) => each.kind === 'heading') as unknown as KindEntry

async function open(...blocks: Block[]) {
  const document = { header: { name: '', line: '' }, blocks } as unknown as Document
  const state = { id: 'p', revision: 1, document, changes: [], limits: { blocks: 4 } } as unknown as PageState
  const response = new Response(null, { status: 200 })
  server.get.mockImplementation((path: string) =>
    Promise.resolve({ data: path.endsWith('/steps') ? [] : state, response }),
  )
  server.put.mockImplementation((_: string, { body }: { body: { document: Document } }) =>
    Promise.resolve({ data: { ...state, document: body.document }, response }),
  )
  await usePageStore().open('p')
  return useBlocks(said)
}

beforeEach(() => {
  vi.resetAllMocks()
  setActivePinia(createPinia())
})

const titles = (list: Block[]) => list.map((each) => each.button?.title ?? each.heading?.text)

describe('the blocks in Arrange', () => {
  it('count their places without the hidden ones', async () => {
    const { places } = await open(button('a', 'A'), button('b', 'B', false), button('c', 'C'))
    expect([...places.value.values()]).toEqual([1, 0, 2])
  })

  it('move to any place that is there, and stay for any that is not', async () => {
    const { blocks, move } = await open(button('a', 'A'), button('b', 'B'), button('c', 'C'))
    move('c', 0)
    expect(titles(blocks.value)).toEqual(['C', 'A', 'B'])
    move('c', 2)
    expect(titles(blocks.value)).toEqual(['A', 'B', 'C'])
    for (const nowhere of [-1, 3, 2]) move('c', nowhere)
    move('nobody', 0)
    expect(titles(blocks.value)).toEqual(['A', 'B', 'C'])
    expect(usePageStore().undoable).toBe('Move “C”')
  })

  it('are hidden, deleted and brought back under names that Undo can say', async () => {
    const { blocks, toggle, remove } = await open(button('a', 'A'), button('b', 'B'))
    toggle('a')
    expect([blocks.value[0]?.shown, usePageStore().undoable]).toEqual([false, 'Hide “A”'])
    remove('b')
    expect(titles(blocks.value)).toEqual(['A'])
    expect(usePageStore().deleted).toEqual({ name: '“B”', step: usePageStore().undoable })
    usePageStore().undo()
    expect(titles(blocks.value)).toEqual(['A', 'B'])
  })

  it('are duplicated below themselves, under a key of their own', async () => {
    const { blocks, duplicate } = await open(button('a', 'A'), button('b', 'B'))
    const copy = duplicate('a')
    expect(titles(blocks.value)).toEqual(['A', 'A', 'B'])
    expect(blocks.value[1]?.key).toBe(copy?.key)
    expect(copy?.key).not.toBe('a')
    expect(duplicate('nobody')).toBeUndefined()
  })

  it('are added below the chosen row, or at the end when none is', async () => {
    const { blocks, add } = await open(button('a', 'A'), button('b', 'B'))
    add(heading, 'a')
    add(heading, undefined)
    expect(titles(blocks.value)).toEqual(['A', 'New heading', 'B', 'New heading'])
    expect(usePageStore().undoable).toBe('Add a heading')
  })

  it('are not added beyond what a page holds, and that is said', async () => {
    const { blocks, add, duplicate } = await open(...['a', 'b', 'c', 'd'].map((key) => button(key, key)))
    expect(add(heading, 'a')).toBeUndefined()
    expect(duplicate('a')).toBeUndefined()
    expect(blocks.value).toHaveLength(4)
    expect(said).toHaveBeenLastCalledWith(
      'A page holds at most 4 blocks. This one is full; nothing was added.',
    )
  })
})
