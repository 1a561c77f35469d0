import type { Rate } from './api/client'

const whole = new Intl.NumberFormat('en')

/** A count with thousands apart, like 1,204. */
export const count = (n: number) => whole.format(n)

/** A count with its noun, like "1 visit" or "30 visits". */
export const counted = (n: number, noun: string, several = `${noun}s`) =>
  `${count(n)} ${n === 1 ? noun : several}`

/** A share in per cent: one decimal below ten, none above. */
export function percent(share: number) {
  const value = share * 100
  return `${value >= 9.95 || value === 0 ? Math.round(value) : value.toFixed(1)}\u00a0%`
}

/** The 95 % interval of a rate, like "8–17 %". */
export const interval = (rate: Rate) =>
  `${percent(rate.interval.low).replace(/\u00a0%$/, '')}–${percent(rate.interval.high)}`

/** A rate said in full, for tooltips and for those who cannot see the whisker. */
export function rateWords(rate: Rate, taken: string, of: string) {
  if (rate.of === 0) return `no ${of} yet`
  return `${count(rate.taken)} of ${count(rate.of)} ${of} ${taken}: ${percent(rate.rate)}, with 95\u00a0% confidence between ${percent(rate.interval.low)} and ${percent(rate.interval.high)}`
}

const relative = new Intl.RelativeTimeFormat('en', { numeric: 'auto' })

/** How long ago something was, in the largest unit that fits. */
export function ago(at: Date, now: Date) {
  const seconds = Math.round((at.getTime() - now.getTime()) / 1000)
  const units: [Intl.RelativeTimeFormatUnit, number][] = [['day', 86_400], ['hour', 3_600], ['minute', 60]]
  for (const [unit, size] of units) {
    if (Math.abs(seconds) >= size) return relative.format(Math.trunc(seconds / size), unit)
  }
  return Math.abs(seconds) < 5 ? 'just now' : relative.format(seconds, 'second')
} // prettier-ignore
