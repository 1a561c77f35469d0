import { Temporal } from 'temporal-polyfill'

/** What the clocks of a zone show at a moment (RFC 3339), as a local date and time of HTML: 2026-12-01T09:00. */
export const toWallClock = (moment: string | undefined, zone: string) =>
  moment &&
  Temporal.Instant.from(moment)
    .toZonedDateTimeISO(zone)
    .toPlainDateTime()
    .toString({ smallestUnit: 'minute' })

/**
 * The moment at which the clocks of a zone show a local date and time. One that is skipped in spring moves
 * forward by what is skipped; of one that comes twice in autumn the first is meant, as on the server.
 */
export const toMoment = (wallClock: string | undefined, zone: string) =>
  wallClock &&
  Temporal.PlainDateTime.from(wallClock)
    .toZonedDateTime(zone, { disambiguation: 'compatible' })
    .toInstant()
    .toString({ smallestUnit: 'second' })

/** What the clocks of a zone show in place of a local date and time that they skip; nothing for one that they show. */
export function shownInstead(wallClock: string | undefined, zone: string) {
  const shown = toWallClock(toMoment(wallClock, zone), zone)
  return shown === wallClock ? undefined : shown
}

/** The same time tomorrow by any clock, at the full hour. */
export const aDayOn = (now = Temporal.Now.instant()) =>
  now
    .round({ smallestUnit: 'hour', roundingMode: 'ceil' })
    .add({ hours: 24 })
    .toString({ smallestUnit: 'second' })

/** Nine o’clock tomorrow by the clocks of a zone. */
export const tomorrowAtNine = (zone: string, now = Temporal.Now.instant()) =>
  now
    .toZonedDateTimeISO(zone)
    .add({ days: 1 })
    .withPlainTime('09:00')
    .toInstant()
    .toString({ smallestUnit: 'second' })
