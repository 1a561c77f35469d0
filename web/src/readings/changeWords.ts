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

/** By how many points a rate rose or fell, and how sure that is. */
export function rateChangeWords({ points: { low, high }, before, called, mixed }: RateChange): string {
  if (before.of === 0) return t('readings.nothingBefore')
  const mix = mixed ? ` ${t('readings.mixWentAgainst')}` : ''
  if (!called) return t('readings.rateTheSame', { was: percent(before.rate) }) + mix
  const [least, most] = low > 0 ? [low, high] : [-high, -low]
  const words = { was: percent(before.rate), least: points(least), most: points(most) }
  return (low > 0 ? t('readings.rateUp', words) : t('readings.rateDown', words)) + mix
}
