import 'fake-indexeddb/auto'
import { IDBFactory } from 'fake-indexeddb'
import { beforeEach, describe, expect, it, vi } from 'vitest'

/** The drafts as another tab of the same browser sees them. */
async function tab() {
  vi.resetModules()
  return import('./drafts')
}

const ILSE = 'ilse@quarrow.example'
const draft = (at: number, value: string) => ({ of: 'page/p', owner: ILSE, at, base: 'first', value })
const DAY = 24 * 3_600_000

beforeEach(() => {
  const held = new Set<string>()
  const locks = {
    request: (name: string) => (held.add(name), new Promise(() => {})),
    query: () => Promise.resolve({ held: [...held].map((name) => ({ name })) }),
  }
  vi.stubGlobal('navigator', { locks })
  vi.stubGlobal('indexedDB', new IDBFactory())
})

/** The tab is closed: its lock is let go. */
const close = () => vi.stubGlobal('navigator', { locks: { request: vi.fn(), query: () => ({ held: [] }) } })

describe('what was typed and not saved', () => {
  it('comes back once, after the tab is gone', async () => {
    const first = await tab()
    await first.keepDraft(draft(1, 'typed'))
    close()
    const second = await tab()
    expect(await second.takeDrafts('page/p', ILSE, 2)).toMatchObject([{ base: 'first', value: 'typed' }])
    expect(await second.takeDrafts('page/p', ILSE, 3)).toEqual([])
  })

  it('comes back to the same tab when it is loaded anew, at once and once only', async () => {
    const left = new Map<string, string>()
    vi.stubGlobal('sessionStorage', {
      setItem: (name: string, text: string) => left.set(name, text),
      getItem: (name: string) => left.get(name) ?? null,
      removeItem: (name: string) => left.delete(name),
    })
    const first = await tab()
    first.leaveDraft(draft(1, 'typed at the last moment'))
    const again = await tab()
    expect(await again.takeDrafts('page/p', 'helper@quarrow.example', 2)).toEqual([])
    expect(await again.takeDrafts('page/p', ILSE, 2)).toMatchObject([{ value: 'typed at the last moment' }])
    expect(await again.takeDrafts('page/p', ILSE, 3)).toEqual([])
    vi.stubGlobal('sessionStorage', undefined)
  })

  it('is left alone while the tab that it was typed in is open', async () => {
    const first = await tab()
    await first.keepDraft(draft(1, 'typed'))
    const second = await tab()
    expect(await second.takeDrafts('page/p', ILSE, 2)).toEqual([])
    await second.dropDraft('page/p')
    expect(await first.hasDrafts()).toBe(true)
    expect(await second.draftsOf(ILSE)).toEqual([])
  })

  it('is known of by whoever typed it, whatever page is open', async () => {
    const first = await tab()
    await first.keepDraft(draft(1, 'typed'))
    close()
    const second = await tab()
    expect(await second.draftsOf(ILSE)).toEqual(['page/p'])
    expect(await second.draftsOf('helper@quarrow.example')).toEqual([])
  })

  it('is shown to nobody else, and for thirty days', async () => {
    const first = await tab()
    await first.keepDraft(draft(1, 'typed'))
    close()
    const second = await tab()
    expect(await second.takeDrafts('page/p', 'helper@quarrow.example', 2)).toEqual([])
    expect(await second.takeDrafts('page/q', ILSE, 2)).toEqual([])
    expect(await second.takeDrafts('page/p', ILSE, 31 * DAY)).toEqual([])
    expect(await second.hasDrafts()).toBe(false)
  })
})
