import { describe, expect, it } from 'vitest'
import { merge } from './merge'

const row = (key: string, title = key) => ({ key, title })
const page = (blocks: { key: string; title: string }[], name = 'Quarrow Clay', look = { text: '#000', soft: '#333' }) => ({
  header: { name, line: '' },
  look,
  blocks,
}) // prettier-ignore
const [dates, seats, glaze, kiln] = ['dates', 'seats', 'glaze', 'kiln'].map((key) => row(key)) as [
  ReturnType<typeof row>, ReturnType<typeof row>, ReturnType<typeof row>, ReturnType<typeof row>,
] // prettier-ignore

describe('two changes of one page', () => {
  const base = page([dates, seats, glaze])

  it('meet where they are of different fields and rows', () => {
    const mine = page([dates, row('seats', 'Seats in May'), glaze], 'Quarrow Clay', {
      text: '#111',
      soft: '#333',
    })
    const theirs = page([row('dates', 'Openings'), seats, glaze], 'Quarrow', { text: '#000', soft: '#444' })
    expect(merge(base, mine, theirs)).toEqual({
      value: page([row('dates', 'Openings'), row('seats', 'Seats in May'), glaze], 'Quarrow', { text: '#111', soft: '#444' }),
      conflicts: [],
    }) // prettier-ignore
  })

  it('name the row that both changed, and take the preferred side there only', () => {
    const mine = page([row('dates', 'Mine'), seats, glaze])
    const theirs = page([row('dates', 'Theirs'), seats, glaze], 'Quarrow')
    expect(merge(base, mine, theirs)).toEqual({
      value: page([row('dates', 'Mine'), seats, glaze], 'Quarrow'),
      conflicts: ['blocks/dates'],
    })
    expect(merge(base, mine, theirs, 'theirs').value).toEqual(page([row('dates', 'Theirs'), seats, glaze], 'Quarrow')) // prettier-ignore
  })

  it('are no conflict where both did the same', () => {
    const both = page([row('dates', 'Openings'), glaze])
    expect(merge(base, both, both)).toEqual({ value: both, conflicts: [] })
  })

  it.each([
    ['a row deleted here', [dates, glaze], [dates, seats, glaze], [dates, glaze], []],
    ['a row deleted there', [dates, seats, glaze], [dates, glaze], [dates, glaze], []],
    ['deleted here, changed there', [dates, glaze], [dates, row('seats', 'New'), glaze], [dates, glaze], ['blocks/seats']],
    ['added on both sides', [dates, kiln, seats, glaze], [row('map'), dates, seats, glaze], [row('map'), dates, kiln, seats, glaze], []],
    ['added here, moved there', [dates, seats, glaze, kiln], [glaze, dates, seats], [glaze, kiln, dates, seats], []],
    ['moved here, added there', [glaze, dates, seats], [dates, seats, kiln, glaze], [glaze, dates, seats, kiln], []],
    ['moved on both sides', [glaze, dates, seats], [seats, dates, glaze], [glaze, dates, seats], []],
    ['added after a row that is gone there', [dates, seats, kiln, glaze], [dates, glaze], [dates, kiln, glaze], []],
  ])('bring rows together: %s', (_, mine, theirs, met, conflicts) => {
    expect(merge(base, page(mine), page(theirs))).toEqual({ value: page(met), conflicts })
  }) // prettier-ignore

  it('bring back a row for whoever prefers the side that kept it', () => {
    const theirs = page([dates, row('seats', 'New'), glaze])
    expect(merge(base, page([dates, glaze]), theirs, 'theirs').value).toEqual(theirs)
  })
})
