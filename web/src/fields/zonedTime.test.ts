import { Temporal } from 'temporal-polyfill'
import { describe, expect, it } from 'vitest'
import { shownInstead, tomorrowAtNine, toMoment, toWallClock } from './zonedTime'

describe('times on the clocks of a zone', () => {
  // The same transitions of the IANA tz database as in internal/core/window/window_test.go.
  it.each([
    ['Europe/London', '2026-03-29T01:30', '2026-03-29T01:30:00Z'],
    ['Europe/London', '2026-10-25T01:30', '2026-10-25T00:30:00Z'],
    ['America/New_York', '2026-03-08T02:30', '2026-03-08T07:30:00Z'],
    ['Australia/Lord_Howe', '2026-10-04T02:15', '2026-10-03T15:45:00Z'],
    ['Australia/Lord_Howe', '2026-04-05T01:45', '2026-04-04T14:45:00Z'],
    ['Asia/Kolkata', '2026-06-01T05:30', '2026-06-01T00:00:00Z'],
  ])('in %s %s is %s', (zone, wall, moment) => expect(toMoment(wall, zone)).toBe(moment))

  it('are shown again as they were entered', () => {
    expect(toWallClock(toMoment('2026-12-01T09:00', 'Europe/Lisbon'), 'Europe/Lisbon')).toBe(
      '2026-12-01T09:00',
    )
    expect([toMoment(undefined, 'UTC'), toWallClock(undefined, 'UTC')]).toEqual([undefined, undefined])
  })

  it('that the clocks skip are shown later', () => {
    expect(shownInstead('2026-03-29T01:30', 'Europe/Lisbon')).toBe('2026-03-29T02:30')
    expect(shownInstead('2026-03-29T01:30', 'UTC')).toBeUndefined()
    expect(shownInstead(undefined, 'UTC')).toBeUndefined()
  })

  it('know nine o’clock tomorrow, late in the evening too', () => {
    const evening = Temporal.Instant.from('2026-06-01T22:30:00Z')
    expect(tomorrowAtNine('Europe/Lisbon', evening)).toBe('2026-06-02T08:00:00Z')
    expect(tomorrowAtNine('UTC', Temporal.Instant.from('2026-06-01T23:30:00Z'))).toBe('2026-06-02T09:00:00Z')
  })
})
