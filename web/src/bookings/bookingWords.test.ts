import { describe, expect, it } from 'vitest'
import type { BookingView } from '@/api/client'
import { actsOn, byDay, hoursOf } from './bookingWords'

const time = (from: string, to: string, change: Partial<BookingView> = {}) =>
  ({ from, to, zone: 'Europe/Lisbon', state: 'asked', ...change }) as BookingView

describe('times that were asked for', () => {
  it('stand under the day they are on by their own clocks', () => {
    const days = byDay([
      time('2026-06-02T22:30:00Z', '2026-06-02T23:30:00Z'),
      time('2026-06-02T23:30:00Z', '2026-06-03T00:30:00Z'),
      time('2026-06-03T09:00:00Z', '2026-06-03T10:00:00Z'),
    ])
    expect(days.map(({ times }) => times.length)).toEqual([1, 2])
    expect(days.map(({ day }) => /\b[23]\b/.exec(day)?.[0])).toEqual(['2', '3'])
  })

  it('say from when until when by their own clocks', () => {
    expect(hoursOf(time('2026-06-02T09:00:00Z', '2026-06-02T10:00:00Z'))).toMatch(/10.*11/)
  })

  it('can be answered as long as they stand to be', () => {
    const acts = (state: BookingView['state']) => actsOn(time('', '', { state }))
    expect(acts('asked')).toEqual(['agree', 'decline'])
    expect(acts('agreed')).toEqual(['callOff'])
    expect([...acts('withdrawn'), ...acts('declined'), ...acts('calledOff'), ...acts('lapsed')]).toEqual([])
  })
})
