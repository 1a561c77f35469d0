import { describe, expect, it } from 'vitest'
import type { ReadingsView } from '@/api/client'
import { byWeek, mondayOf, sevenDayMean, timeline, timeSeries, unitOf } from './timeSeries'

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

  it('can be weeks that begin on Monday', () => {
    expect(mondayOf('2026-06-07')).toBe('2026-06-01')
    expect(mondayOf('2026-06-08')).toBe('2026-06-08')
    const days = ['2026-06-06', '2026-06-07', '2026-06-08', '2026-06-09']
    expect(byWeek(days, [{ name: 'Visits', values: [1, 2, 3, 4] }])).toEqual({
      points: ['2026-06-01', '2026-06-08'],
      series: [{ name: 'Visits', values: [3, 7] }],
    })
  })

  it('are hours of a day or two, and weeks of many months, unless somebody chooses', () => {
    const of = (days: number, hours: number) =>
      unitOf({ days: Array(days).fill({}), hours: Array(hours).fill({}) } as unknown as ReadingsView)
    expect([of(1, 24), of(28, 0), of(400, 0)]).toEqual(['hour', 'day', 'week'])
  })

  it('are split by hour as they are by day', () => {
    const hour = {
      date: '2026-06-01',
      hour: 7,
      visits: 3,
      clicks: 1,
      visitsBySource: { [lanes[0]!.id]: 2 },
      clicksByBlock: { dates: 1 },
    }
    const hours = { ...view, hours: [hour] } as ReadingsView
    const bySource = timeline(hours, lanes, 'source', 'hour')
    expect(bySource.points).toEqual(['2026-06-01 07'])
    expect(bySource.series.map(({ values }) => values)).toEqual(lanes.map((_, i) => [i === 0 ? 2 : 0]))
    const byButton = timeline(hours, lanes, 'button', 'hour').series
    expect(byButton.every(({ values }) => values.length === 1)).toBe(true)
  })

  it('have a mean of seven days once there are seven', () => {
    expect(sevenDayMean([7, 0, 0, 0, 0, 0, 0, 7])).toEqual([null, null, null, null, null, null, 1, 1])
  })
})
