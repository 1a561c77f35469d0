import type { Rate } from './api/client'
import { formatsOf, t } from './i18n'
import type english from './locales/en.json'

/** A count with thousands apart, like 1,204. */
export const count = (n: number) => new Intl.NumberFormat(formatsOf()).format(n)

/** A count with its noun, like "1 visit" or "30 visits". */
export const counted = (n: number, noun: keyof typeof english.counts) =>
  t(`counts.${noun}`, { n: count(n) }, n)

/** How near a share is to none or to all that it is called that: nearer than any count makes it. */
const NEXT = 1e-9

/**
 * A share in per cent, the same as the server writes it (core/stats/percent.go): one decimal below ten and above
 * 99.5, none between. Only what is none is 0 %, and only what is all is 100 %.
 */
export const percent = (share: number) => `${perCent(share)}\u00a0%`

function perCent(share: number) {
  const [tenths, whole] = [Math.floor(share * 1000 + 0.5), Math.floor(share * 100 + 0.5)]
  if (share <= NEXT) return '0'
  if (tenths < 1) return '<0.1'
  if (tenths < 100) return (tenths / 10).toFixed(1)
  if (whole < 100 || share >= 1 - NEXT) return String(whole)
  return tenths < 1000 ? (tenths / 10).toFixed(1) : '>99.9'
}

/** The 95 % interval of a rate, like "8–17 %". */
export const interval = (rate: Rate) =>
  `${percent(rate.interval.low).replace(/\u00a0%$/, '')}–${percent(rate.interval.high)}`

/** From how many visits on a rate is shown, the same on every screen. */
export const ENOUGH_VISITS = 30

/** Whether a rate rests on enough visits to be shown. */
export const isEnough = (rate: Pick<Rate, 'of'>) => rate.of >= ENOUGH_VISITS

/** A rate in per cent; a dash where it rests on too few visits to say anything. */
export const rateText = (rate: Rate) => (isEnough(rate) ? percent(rate.rate) : '–')

/** A rate said in full, for tooltips and for those who cannot see the whisker: of what, and who did what. */
export function rateWords(rate: Rate, of: 'ofVisits' | 'ofVisitsShown' | 'ofVisitsAny') {
  if (rate.of === 0) return of === 'ofVisitsShown' ? t('rates.noVisitsShown') : t('rates.noVisits')
  if (!isEnough(rate)) {
    const more = counted(ENOUGH_VISITS - rate.of, 'visit')
    return t('rates.tooFew', { taken: count(rate.taken), of: counted(rate.of, 'visit'), more })
  }
  return t(`rates.${of}`, {
    taken: count(rate.taken),
    of: count(rate.of),
    rate: percent(rate.rate),
    low: percent(rate.interval.low),
    high: percent(rate.interval.high),
  })
}

/** How long ago something was, in the largest unit that fits. */
export function ago(at: Date, now: Date) {
  const relative = new Intl.RelativeTimeFormat(formatsOf(), { numeric: 'auto' })
  const seconds = Math.round((at.getTime() - now.getTime()) / 1000)
  const units: [Intl.RelativeTimeFormatUnit, number][] = [['day', 86_400], ['hour', 3_600], ['minute', 60]]
  for (const [unit, size] of units) {
    if (Math.abs(seconds) >= size) return relative.format(Math.trunc(seconds / size), unit)
  }
  return Math.abs(seconds) < 5 ? t('rates.justNow') : relative.format(seconds, 'second')
} // prettier-ignore
