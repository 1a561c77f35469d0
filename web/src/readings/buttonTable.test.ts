import { describe, expect, it } from 'vitest'
import type { ReadingsView } from '@/api/client'
import { columnClicks, marksOf, shareOf, tableRows } from './buttonTable'

const rate = (taken: number, of: number) => ({
  taken,
  of,
  rate: of ? taken / of : 0,
  interval: { low: 0, high: 1 },
})
const cell = (clicks: number, of: number) => ({ clicks, rate: rate(clicks, of) })
const view = {
  titles: [
    { block: 'a', title: 'A', place: 1 },
    { block: 'b', title: 'B', place: 2 },
    { block: 'c', title: 'C', place: 3 },
  ],
  blocks: [
    { block: 'a', total: cell(10, 100), bySource: { card: cell(4, 40), letter: cell(6, 60) }, daily: [] },
    { block: 'b', total: cell(30, 600), bySource: { card: cell(30, 600) }, daily: [] },
  ],
  association: { marks: [{ block: 'b', source: 'card', takers: 30, expected: 20, residual: 4 }] },
} as unknown as ReadingsView

describe('the table of buttons and sources', () => {
  it('is in the order of the page, or has the most clicks or the highest rate first', () => {
    const order = (sort: 'place' | 'clicks' | 'rate') =>
      tableRows(view, sort)
        .map(({ block }) => block)
        .join('')
    expect([order('place'), order('clicks'), order('rate')]).toEqual(['abc', 'bac', 'abc'])
  })

  it('shows rates, and shares of a row and of a column that add up', () => {
    const [a, b] = view.blocks
    const columns = columnClicks(view)
    expect(shareOf('rate', a!.bySource.card!, a!, 34)).toBeCloseTo(0.1)
    expect(shareOf('row', a!.bySource.card!, a!, 34)! + shareOf('row', a!.bySource.letter!, a!, 6)!).toBe(1)
    const card = columns.get('card')!
    expect(
      shareOf('column', a!.bySource.card!, a!, card)! + shareOf('column', b!.bySource.card!, b!, card)!,
    ).toBe(1)
    expect(shareOf('column', cell(0, 0), a!, 0)).toBeUndefined()
  })

  it('knows which cells stand out', () => {
    expect([...marksOf(view).keys()]).toEqual(['b card'])
  })
})
