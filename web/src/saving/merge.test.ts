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

  it('name the field of a row that both changed, and take the preferred side there only', () => {
    const mine = page([row('dates', 'Mine'), seats, glaze])
    const theirs = page([row('dates', 'Theirs'), seats, glaze], 'Quarrow')
    expect(merge(base, mine, theirs)).toEqual({
      value: page([row('dates', 'Mine'), seats, glaze], 'Quarrow'),
      conflicts: ['blocks/dates/title'],
    })
    expect(merge(base, mine, theirs, 'theirs').value).toEqual(page([row('dates', 'Theirs'), seats, glaze], 'Quarrow')) // prettier-ignore
  })

  const button = (fields: Record<string, unknown>) =>
    ({ blocks: [{ key: 'k1', kind: 'button', shown: true, ...fields, button: { title: 'Shop', line: 'Mugs', address: 'https://a.example', destinationId: 'a', ...(fields.button as object) } }] }) // prettier-ignore
  it.each([
    ['title here, second line there', { button: { title: 'Kiln' } }, { button: { line: 'Bowls' } }, { button: { title: 'Kiln', line: 'Bowls' } }, []],
    ['second line emptied there only', { button: { title: 'Kiln' } }, { button: { line: undefined } }, { button: { title: 'Kiln', line: undefined } }, []],
    ['hidden here, address there', { shown: false }, { button: { address: 'https://b.example', destinationId: 'b' } }, { shown: false, button: { address: 'https://b.example', destinationId: 'b' } }, []],
    ['times there, look here', { style: { pair: 'x' } }, { when: { zone: 'UTC' } }, { style: { pair: 'x' }, when: { zone: 'UTC' } }, []],
    ['two addresses, one still unknown', { button: { address: 'https://c.example' } }, { button: { address: 'https://b.example', destinationId: 'b' } }, { button: { address: 'https://c.example' } }, ['blocks/k1/button/address']],
    ['two titles, and a line there', { button: { title: 'Kiln' } }, { button: { title: 'Oven', line: 'Bowls' } }, { button: { title: 'Kiln', line: 'Bowls' } }, ['blocks/k1/button/title']],
  ])('of one row meet field by field: %s', (_, mine, theirs, met, conflicts) => {
    expect(merge(button({}), button(mine), button(theirs))).toEqual({ value: button(met), conflicts })
  }) // prettier-ignore

  it.each([
    ['a picture', { picture: { media: 'a.webp', width: 1 } }, { picture: { media: 'b.webp', width: 1 } }, { picture: { media: 'a.webp', width: 2 } }, 'picture'],
    ['times', { when: { zone: 'UTC', spans: [] } }, { when: { zone: 'Europe/Lisbon', spans: [] } }, { when: { zone: 'UTC', spans: [{ to: '2026' }] } }, 'when'],
    ['an amount and its currency', { amount: '5', currency: 'EUR' }, { amount: '6', currency: 'EUR' }, { amount: '5', currency: 'USD' }, 'amount'],
    ['what is of a kind', { gate: { kind: 'notice', text: 'a' } }, { gate: { kind: 'notice', text: 'b' } }, { gate: { kind: 'passcode', passcodeId: 'p' } }, 'gate'],
    ['a list whose rows have no keys', { items: [{ asked: 'a' }] }, { items: [{ asked: 'b' }] }, { items: [{ asked: 'a' }, { asked: 'c' }] }, 'items'],
  ])('are never mixed within %s', (_, base, mine, theirs, place) => {
    expect(merge<object>(base, mine, theirs)).toEqual({ value: mine, conflicts: [place] })
    expect(merge<object>(base, mine, theirs, 'theirs').value).toEqual(theirs)
  }) // prettier-ignore

  it('meet in the translations of one language, text by text', () => {
    const into = (texts: Record<string, string>) => ({ translations: [{ language: 'pt', texts }] })
    const at = 'blocks/k1/button/title'
    expect(merge(into({ [at]: 'a', b: 'b' }), into({ [at]: 'x', b: 'y' }), into({ [at]: 'z', b: 'b' }))).toEqual({
      value: into({ [at]: 'x', b: 'y' }),
      conflicts: ['translations/pt/texts/blocks~1k1~1button~1title'],
    }) // prettier-ignore
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
