import { beforeEach, describe, expect, it, vi } from 'vitest'
import { ApiError } from '@/api/client'
import { Autosave, type Saving } from './autosave'

interface Page {
  name: string
  rows: { key: string; address: string }[]
}
interface State {
  revision: number
  as?: string
  page: Page
}

const write = vi.fn<Saving<Page, State>['write']>()
const saving: Saving<Page, State> = {
  valueOf: ({ page }) => page,
  revisionOf: ({ revision }) => revision,
  savedAs: ({ as }) => as ?? '',
  write,
}
const page = (name: string, address = ''): Page => ({ name, rows: [{ key: 'dates', address }] })
const state = (revision: number, value: Page): State => ({ revision, page: value })
const accept = (value: Page, revision: number) => Promise.resolve(state(revision + 1, value))
const refuse = (status: number, body?: unknown) =>
  Promise.reject(new ApiError(status, 'Not so.', undefined, body))
const sent = () => write.mock.calls.map(([value]) => value)

function begin(value = page('first')) {
  const refuge = { keep: vi.fn(), drop: vi.fn() }
  const met = vi.fn()
  return { autosave: new Autosave(saving, state(1, value), { refuge, met }), refuge, met }
}

beforeEach(() => {
  write.mockReset()
  write.mockImplementation(accept)
})

describe('what saves itself', () => {
  it('saves changes that follow each other as one, and what comes meanwhile after it', async () => {
    const { autosave, refuge } = begin()
    autosave.put(page('se'))
    autosave.put(page('second'))
    write.mockImplementationOnce((value, revision) => {
      autosave.put(page('third'))
      return accept(value, revision)
    })
    await autosave.save()
    expect(sent()).toEqual([page('second'), page('third')])
    expect(autosave.standing).toBe('saved')
    expect(autosave.value).toEqual(page('third'))
    expect(refuge.drop).toHaveBeenCalled()
  })

  it.each([0, 429, 500, 503])('waits and tries again after a status of %s, and says so all the while', async (status) => {
    vi.useFakeTimers()
    const { autosave } = begin()
    write.mockImplementationOnce(() => refuse(status)).mockImplementationOnce(() => refuse(status))
    autosave.put(page('second'))
    await autosave.save()
    expect(autosave.standing).toBe('waiting')
    autosave.put(page('third'))
    expect(autosave.standing, 'while it is tried').toBe('waiting')
    await vi.runAllTimersAsync()
    vi.useRealTimers()
    expect(autosave.standing).toBe('saved')
    expect(sent().at(-1)).toEqual(page('third'))
  }) // prettier-ignore

  it('waits for whoever signs in again when the session has ended', async () => {
    const { autosave, refuge } = begin()
    write.mockImplementationOnce(() => refuse(401))
    autosave.put(page('second'))
    await autosave.save()
    expect(autosave.standing).toBe('waiting')
    expect(refuge.keep).toHaveBeenLastCalledWith(
      expect.objectContaining({ base: page('first'), value: page('second') }),
    )
    expect(refuge.drop).not.toHaveBeenCalled()
    await autosave.save()
    expect(autosave.standing).toBe('saved')
  })

  const badAddress = { errors: [{ location: 'rows/0/address', message: 'This is no address.' }] }

  it('saves all else when one field is refused, and marks that field', async () => {
    const { autosave } = begin()
    write.mockImplementation((value, revision) =>
      value.rows[0]!.address === 'abc' ? refuse(422, badAddress) : accept(value, revision),
    )
    autosave.put(page('second', 'abc'))
    await autosave.save()
    expect(sent().at(-1)).toEqual(page('second', ''))
    expect(autosave.standing).toBe('refused')
    expect(autosave.refusals).toMatchObject([{ place: 'rows/dates/address', message: 'This is no address.' }])
    expect(autosave.value, 'as it was typed').toEqual(page('second', 'abc'))

    autosave.put(page('third', 'abc'))
    await autosave.save()
    expect(sent().at(-1)).toEqual(page('third', ''))
    autosave.put(page('third', 'https://kiln.example/'))
    await autosave.save()
    expect(sent().at(-1)).toEqual(page('third', 'https://kiln.example/'))
    expect(autosave.standing).toBe('saved')
    expect(autosave.refusals).toEqual([])
  })

  it('does not ask for ever when what is refused cannot be left out', async () => {
    const { autosave } = begin()
    write.mockImplementation(() => refuse(422, { errors: [{ location: 'quota', message: 'Full.' }] }))
    autosave.put(page('second'))
    await autosave.save()
    expect(write).toHaveBeenCalledTimes(1)
    expect(autosave.standing).toBe('refused')
    expect(autosave.problem).toBe('Not so.')
  })

  it('merges what was changed elsewhere without a question', async () => {
    const { autosave, met } = begin()
    write.mockImplementationOnce(() => refuse(409, { current: state(7, page('theirs')) }))
    autosave.put(page('first', 'https://mine.example/'))
    await autosave.save()
    expect(write.mock.lastCall?.slice(0, 2)).toEqual([page('theirs', 'https://mine.example/'), 7])
    expect(met).toHaveBeenCalledWith(page('first'), page('theirs'))
    expect(autosave.standing).toBe('saved')
  })

  it('takes an answer that was lost on the way for its own', async () => {
    const { autosave } = begin()
    autosave.put(page('second'))
    write.mockImplementationOnce(() => refuse(409, { current: state(2, page('second')) }))
    await autosave.save()
    expect(autosave.standing).toBe('saved')
    expect(write).toHaveBeenCalledTimes(1)
  })

  it('knows a save again whose answer was lost, and takes nothing back that was undone since', async () => {
    const { autosave, refuge } = begin()
    write.mockImplementationOnce((_, __, as) => {
      autosave.put(page('first')) // undone while the save was under way
      taken = { ...state(2, page('second')), as }
      return refuse(0)
    })
    let taken: State | undefined
    autosave.put(page('second'))
    await autosave.save()
    write.mockImplementationOnce(() => refuse(409, { current: taken }))
    await autosave.save()
    expect(write.mock.lastCall?.slice(0, 2)).toEqual([page('first'), 2])
    expect(autosave.standing).toBe('saved')

    const kept = refuge.keep.mock.calls.map(([draft]) => draft).find((draft) => draft.sent.length > 0)
    const after = new Autosave(saving, taken!)
    expect(after.resume({ ...kept, value: page('typed since') }), 'after a reload').toBe(true)
    await after.save()
    expect([after.standing, after.value]).toEqual(['saved', page('typed since')])
  })

  it.each([
    ['mine' as const, page('mine', 'https://theirs.example/')],
    ['theirs' as const, page('theirs', 'https://theirs.example/')],
  ])('asks where both changed the same, saves nothing until then, and takes %s', async (side, becomes) => {
    const { autosave } = begin()
    const theirs = page('theirs', 'https://theirs.example/')
    write.mockImplementationOnce(() => refuse(409, { current: state(7, theirs) }))
    autosave.put(page('mine'))
    await autosave.save()
    expect(autosave.standing).toBe('conflict')
    expect(autosave.conflict?.places).toEqual(['name'])
    autosave.put(page('mine'))
    await autosave.save()
    expect(write).toHaveBeenCalledTimes(1)

    autosave.choose(side)
    await autosave.save()
    expect(autosave.standing).toBe('saved')
    expect(autosave.value).toEqual(becomes)
    expect(autosave.state.page).toEqual(becomes)
  })

  it('asks about what both have now, while both go on, and no longer once they agree', async () => {
    const { autosave } = begin()
    write.mockImplementationOnce(() => refuse(409, { current: state(7, page('theirs')) }))
    autosave.put(page('mine'))
    await autosave.save()
    autosave.refresh(state(6, page('an answer that is older')))
    expect(autosave.conflict?.theirs.page.name).toBe('theirs')
    autosave.refresh(state(8, page('theirs, later', 'https://theirs.example/')))
    expect(autosave.conflict?.theirs.page.name).toBe('theirs, later')
    autosave.put(page('mine', 'https://mine.example/'))
    expect(autosave.conflict?.places).toEqual(['name', 'rows/dates/address'])

    autosave.put(page('theirs, later', 'https://theirs.example/'))
    await autosave.save()
    expect([autosave.standing, autosave.state.revision]).toEqual(['saved', 8])
  })

  it('asks nothing about what was written here in a save whose answer was lost', async () => {
    const { autosave } = begin()
    let taken = page('first')
    write.mockImplementationOnce((value) => {
      taken = { ...value, rows: page('', 'https://theirs.example/').rows }
      return refuse(503)
    })
    autosave.put(page('mine'))
    await autosave.save()
    // Meanwhile somebody else has saved after it.
    write.mockImplementationOnce(() => refuse(409, { current: state(8, taken) }))
    autosave.put(page('mine, later'))
    await autosave.save()
    expect([autosave.standing, autosave.value]).toEqual([
      'saved',
      page('mine, later', 'https://theirs.example/'),
    ])
  })

  it('keeps what was typed since such a save, whichever side is taken elsewhere', async () => {
    const { autosave } = begin()
    write.mockImplementationOnce(() => refuse(503))
    autosave.put(page('mine'))
    await autosave.save()
    const taken = page('mine', 'https://theirs.example/')
    write.mockImplementationOnce(() => refuse(409, { current: state(8, taken) }))
    autosave.put(page('mine, later', 'https://mine.example/'))
    await autosave.save()
    expect(autosave.conflict?.places).toEqual(['rows/dates/address'])
    autosave.choose('theirs')
    await autosave.save()
    expect([autosave.standing, autosave.value]).toEqual([
      'saved',
      page('mine, later', 'https://theirs.example/'),
    ])
  })

  it('learns of changes made elsewhere only when nothing here is unsaved', async () => {
    const { autosave } = begin()
    autosave.refresh(state(2, page('theirs')))
    expect(autosave.value).toEqual(page('theirs'))
    autosave.put(page('mine'))
    autosave.refresh(state(3, page('theirs again')))
    expect(autosave.value).toEqual(page('mine'))
    await autosave.save()
  })

  it('goes on with what was typed before a reload', async () => {
    const { autosave } = begin(page('changed elsewhere'))
    expect(autosave.resume({ base: page('first'), value: page('first', 'https://typed.example/') })).toBe(
      true,
    )
    await autosave.save()
    expect(sent()).toEqual([page('changed elsewhere', 'https://typed.example/')])
    expect(autosave.resume({ base: page('first'), value: page('changed elsewhere') }), 'nothing new').toBe(
      false,
    )
  })

  it('asks when what was typed before a reload was changed elsewhere since', async () => {
    const { autosave, refuge } = begin(page('theirs'))
    autosave.resume({ base: page('first'), value: page('mine') })
    expect(autosave.standing).toBe('conflict')
    expect(refuge.keep).toHaveBeenLastCalledWith(
      expect.objectContaining({ base: page('first'), value: page('mine') }),
    )
    autosave.choose('mine')
    await autosave.save()
    expect(sent()).toEqual([page('mine')])
  })
})
