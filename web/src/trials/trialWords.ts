import type { TrialView } from '@/api/client'
import { count } from '@/figures'
import { t } from '@/i18n'

/** A difference in points, without its sign. */
export const points = (share: number) => (100 * Math.abs(share)).toFixed(1)

/** What is tried against what, by its number; 0 is the page as it is. */
export function variantName(trial: Pick<TrialView, 'kind' | 'variants'>, at: number): string {
  const variant = trial.variants[at - 1]
  if (!variant) return t('trials.asItIs')
  switch (trial.kind) {
    case 'title':
      return `“${variant.title}”`
    case 'place':
      return t('readings.atPlace', { place: variant.place ?? 0 })
    case 'picture':
      return trial.variants.length > 1 ? t('trials.pictureN', { n: at }) : t('trials.otherPicture')
    default:
      return trial.variants.length > 1 ? t('trials.orderN', { n: at }) : t('trials.otherOrder')
  }
}

/** How a trial stands, as the first thing that is said of it. */
export function verdictWords(trial: TrialView): string {
  const { verdict, best } = trial.result
  const name = variantName(trial, best)
  if (verdict === 'none') return t('trials.noDifference', { worth: points(trial.worth) })
  if (verdict === 'notYet')
    return trial.runs ? t('trials.notYet') : t('trials.notFound', { findable: points(trial.plan.findable) })
  const against = trial.arms[best]?.against
  if (!against) return t('trials.asItIsIsBetter')
  return t('trials.better', { name, low: points(against.low), high: points(against.high) })
}

/** What of a trial there is to be seen as soon as it is planned. */
export function planWords(plan: TrialView['plan'], days: number): string {
  if (plan.findable >= 0.5) return t('trials.findsNothing', { days })
  return t('trials.finds', {
    days,
    visits: count(plan.perArm),
    findable: points(plan.findable),
    rate: points(plan.rate),
  })
}
