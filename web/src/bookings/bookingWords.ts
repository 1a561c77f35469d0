import type { BookingView } from '@/api/client'
import { formatsOf, t } from '@/i18n'

const STATES: Record<BookingView['state'], string> = {
  asked: t('bookings.waitsForYou'),
  agreed: t('bookings.agreed'),
  declined: t('bookings.declined'),
  calledOff: t('bookings.calledOff'),
  withdrawn: t('bookings.withdrawn'),
  lapsed: t('bookings.lapsed'),
}

/** How a time stands. */
export const stateWords = ({ state }: BookingView) => STATES[state]

/** What a creator can do about a time that stands as it does. */
export const actsOn = ({ state }: BookingView) =>
  state === 'asked'
    ? (['agree', 'decline'] as const)
    : state === 'agreed'
      ? (['callOff'] as const)
      : ([] as const)

export type Act = ReturnType<typeof actsOn>[number]

const ACTS: Record<Act, string> = {
  agree: t('bookings.agree'),
  decline: t('bookings.decline'),
  callOff: t('bookings.callOff'),
}
export const actWords = (act: Act) => ACTS[act]

/** The day a time is on, by the clocks it was asked for by. */
export const dayOf = ({ from, zone }: BookingView) =>
  new Date(from).toLocaleDateString(formatsOf(), { dateStyle: 'full', timeZone: zone })

/** From when until when it is, by the same clocks. */
export function hoursOf({ from, to, zone }: BookingView) {
  const format = new Intl.DateTimeFormat(formatsOf(), { timeStyle: 'short', timeZone: zone })
  return format.formatRange(new Date(from), new Date(to))
}

/** By whose clocks, where those are not this device's. */
export const elsewhere = ({ zone }: BookingView) =>
  zone === Intl.DateTimeFormat().resolvedOptions().timeZone ? '' : zone.replaceAll('_', ' ')

export interface Day {
  day: string
  times: BookingView[]
}

/** Times by the day they are on, and by whose clocks where those are not this device's, in the order they come in. */
export function byDay(all: BookingView[]): Day[] {
  const days: Day[] = []
  for (const one of all) {
    const zone = elsewhere(one)
    const day = zone ? `${dayOf(one)} · ${zone}` : dayOf(one)
    const last = days.at(-1)
    if (last?.day === day) last.times.push(one)
    else days.push({ day, times: [one] })
  }
  return days
}
