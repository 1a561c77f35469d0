import type { BlockDetail } from '@/api/client'
import { t } from '@/i18n'
import { leastPoints } from './changeWords'

const points = (share: number) => (100 * Math.abs(share)).toFixed(1)

/**
 * What is said where no edition changed a button itself. Above it may be seen how others moved it, or how its times
 * had it come and go: then it did change.
 */
export function unchangedWords({ placements, windows }: Pick<BlockDetail, 'placements' | 'windows'>): string {
  if (placements.length > 1) return t('readings.onlyItsPositionChanged')
  return windows.length > 0 ? t('readings.onlyItsTimes') : t('readings.nothingChanged')
}

/** What a rate did around a change, in words: more, less, no difference that could be told, or too little to say. */
export function aroundWords({
  weeks,
  before,
  after,
  points: { low, high },
  called,
  mixed,
  needs,
  missing,
}: BlockDetail['edits'][number]['around']): string {
  if (weeks === 0) {
    return missing > 0 ? t('readings.toldAfterAWeek', { n: missing }, missing) : t('readings.lessThanAWeek')
  }
  if (before.of < 30 || after.of < 30) return t('readings.tooFewAround')
  const mix = mixed ? ` ${t('readings.mixWentAgainst')}` : ''
  if (!called) {
    const more = missing > 0 ? t('readings.anotherWeekIn', { n: missing }, missing) : ''
    const least = leastPoints(needs)
    const told = least ? t('readings.noDifferenceBelow', { points: least }) : t('readings.noDifferenceTold')
    return [told, more].filter(Boolean).join(' ') + mix
  }
  const words =
    low > 0
      ? t('readings.moreSince', { low: points(low), high: points(high) })
      : t('readings.lessSince', { low: points(high), high: points(low) })
  return words + mix
}
