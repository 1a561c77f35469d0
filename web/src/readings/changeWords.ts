import type { ReadingsView } from '@/api/client'
import { percent } from '@/figures'
import { t } from '@/i18n'

type Changes = NonNullable<ReadingsView['changes']>
export type CountChange = Changes['clicks']
export type VisitsChange = Changes['visits']
export type RateChange = Changes['clickThrough']

/** By what part a count rose or fell, like "+12 %"; empty where there was nothing to compare with. */
export const shareWords = ({ before, share }: CountChange) =>
  before === 0 ? '' : `${share > 0 ? '+' : share < 0 ? '−' : '±'}${percent(Math.abs(share))}`

/** What that says of visits: a change, or no more than such days go up and down by themselves; or what is missing to tell. */
export function visitsWords(change: VisitsChange, days: number): string {
  const share = shareWords(change)
  if (!share) return t('readings.nothingBefore')
  if (days === 1) return t('readings.oneDayAlone', { share })
  if (change.missing > 0) return t('readings.toldInDays', { share, n: change.missing }, change.missing)
  if (!change.called) return t('readings.noRealChange', { share })
  return change.share > 0 ? t('readings.up', { share }) : t('readings.down', { share })
}

const points = (share: number) => (100 * Math.abs(share)).toFixed(1)

/** Beyond so much days differ too much to speak of points. */
const MOST_POINTS = 0.4

/** How many points a difference of a rate has to be to be told in this time; empty where that is not known. */
export const leastPoints = ({ points }: RateChange['needs']): string =>
  points > 0 && points < MOST_POINTS ? aboutPoints(points) : ''
const aboutPoints = (share: number) =>
  share < 0.02 ? points(share).replace('.0', '') : String(Math.round(100 * share))

/** How much longer a time it takes to tell a smaller one; empty where this is long enough. */
export const weeksWords = ({ weeks, quarter }: RateChange['needs']): string =>
  weeks > 0 ? t('readings.quarterTakes', { weeks, points: aboutPoints(quarter) }, weeks) : ''

/** By how many points a rate rose or fell, and how sure that is. */
export function rateChangeWords({ points: { low, high }, before, called, mixed, needs }: RateChange): string {
  if (before.of === 0) return t('readings.nothingBefore')
  const was = percent(before.rate)
  if (!called) {
    if (mixed) return t('readings.mixSame', { was })
    const least = leastPoints(needs)
    return least ? t('readings.rateTheSameBelow', { was, points: least }) : t('readings.rateTheSame', { was })
  }
  const [least, most] = low > 0 ? [low, high] : [-high, -low]
  const words = { was, least: points(least), most: points(most) }
  if (mixed) return low > 0 ? t('readings.mixUp', words) : t('readings.mixDown', words)
  return low > 0 ? t('readings.rateUp', words) : t('readings.rateDown', words)
}
