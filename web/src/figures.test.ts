import { describe, expect, it } from 'vitest'
import { ago, counted, percent, rateWords } from './figures'
import table from '../../internal/core/stats/testdata/percent.json'
import { lanes, sourceColour } from './sourceColours'

describe('figures in words', () => {
  it('says a share with as many decimals as it carries', () => {
    expect([0, 0.0042, 0.0994, 0.0996, 0.512, 1].map(percent)).toEqual([
      '0\u00a0%',
      '0.4\u00a0%',
      '9.9\u00a0%',
      '10\u00a0%',
      '51\u00a0%',
      '100\u00a0%',
    ])
  })

  it('says a share as letters, files and shared figures do', () => {
    for (const { taken, of, says } of table) expect(percent(taken / of), `${taken} of ${of}`).toBe(says)
  })

  it('counts in the singular too', () => {
    expect([0, 1, 1204].map((n) => counted(n, 'time'))).toEqual(['0 times', '1 time', '1,204 times'])
  })

  it('says how sure a rate is', () => {
    const rate = { taken: 15, of: 148, rate: 15 / 148, interval: { low: 0.0624, high: 0.1605 } }
    expect(rateWords(rate, 'ofVisits')).toBe(
      '15 of 148 visits pressed it: 10\u00a0%, with 95\u00a0% confidence between 6.2\u00a0% and 16\u00a0%',
    )
    expect(rateWords({ ...rate, of: 0 }, 'ofVisits')).toBe('no visits yet')
  })

  it('says how long ago', () => {
    const now = new Date('2026-06-01T12:00:00Z')
    const before = (seconds: number) => ago(new Date(now.getTime() - seconds * 1000), now)
    expect([2, 40, 240, 7200, 86_400, 260_000].map(before)).toEqual([
      'just now',
      '40 seconds ago',
      '4 minutes ago',
      '2 hours ago',
      'yesterday',
      '3 days ago',
    ])
  })
})

describe('lanes', () => {
  const sources = [
    { id: 'a', name: 'A', retired: false },
    { id: 'b', name: 'B', retired: true },
    { id: 'c', name: 'C', retired: false },
  ]

  it('keep their colour when another source is retired', () => {
    expect(lanes(sources, () => false).map((lane) => [lane.id, lane.colour])).toEqual([
      ['a', sourceColour(0)],
      ['c', sourceColour(2)],
      ['untagged', '#8b806c'],
    ])
  })

  it('show a retired source while it has figures', () => {
    expect(lanes(sources, (id) => id === 'b').map((lane) => lane.id)).toEqual(['a', 'b', 'c', 'untagged'])
  })
})
