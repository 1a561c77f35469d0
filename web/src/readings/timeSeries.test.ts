import { describe, expect, it } from 'vitest'
import type { ReadingsView } from '@/api/client'
import { timeSeries } from './timeSeries'

const row = (block: string, clicks: number) => ({ block, daily: [0, clicks], total: { clicks } })
const view = {
  days: [
    { date: '2026-06-01', visits: 3, visitsBySource: { loft: 2, untagged: 1 } },
    { date: '2026-06-02', visits: 0, visitsBySource: {} },
  ],
  titles: ['a', 'b', 'c', 'd', 'e', 'f', 'g'].map((block) => ({
    block,
    title: block.toUpperCase(),
    place: 1,
  })),
  blocks: [row('a', 1), row('b', 9), row('c', 2), row('d', 3), row('e', 4), row('f', 5), row('g', 6)],
} as unknown as ReadingsView
const lanes = [
  { id: 'loft', name: 'Photoloft', colour: '#000' },
  { id: 'untagged', name: 'Untagged', colour: '#888' },
]

describe('the lines over time', () => {
  it('are one for all visits', () => {
    expect(timeSeries(view, lanes, 'none')).toEqual([{ name: 'Visits', values: [3, 0] }])
  })

  it('are one a source, and add up', () => {
    const series = timeSeries(view, lanes, 'source')
    expect(series.map((line) => line.values)).toEqual([
      [2, 0],
      [1, 0],
    ])
  })

  it('are the strongest buttons, strongest first', () => {
    expect(timeSeries(view, lanes, 'button').map((line) => line.name)).toEqual(['B', 'G', 'F', 'E', 'D', 'C'])
  })
})
