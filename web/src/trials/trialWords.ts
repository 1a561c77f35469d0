import type { TrialView } from '@/api/client'
import { momentWords } from '@/arrange/stateWords'
import { count } from '@/figures'
import { formatsOf, t } from '@/i18n'

/** A difference in points, without its sign. */
export const points = (share: number) => (100 * Math.abs(share)).toFixed(1)

/** The time in a zone at which the day begins by which versions are shared out: the next midnight in UTC. */
export const dayBegins = (zone: string, now = new Date()) =>
  new Date(Math.ceil(now.getTime() / 86_400_000) * 86_400_000).toLocaleTimeString(formatsOf(), {
    timeStyle: 'short',
    timeZone: zone,
  })

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

/** A difference in points with its sign. */
export const signed = (share: number) => `${share < 0 ? '−' : '+'}${points(share)}`

/** Whether a range of differences says anything: with too few it is everything there can be. */
export const isKnown = (range?: { low: number; high: number }) => !!range && range.high - range.low < 1.9

/** How a trial stands, as the first thing that is said of it. */
export function verdictWords(trial: TrialView, zone: string): string {
  const { verdict, best } = trial.result
  const name = variantName(trial, best)
  if (verdict === 'none') return t('trials.noDifference', { worth: points(trial.worth) })
  if (verdict === 'notYet') return undecidedWords(trial)
  if (verdict === 'early' && !trial.runs) return t('trials.earlyAndOver', { name })
  const against = trial.arms[best]?.against
  const when = momentWords(trial.chooseAt, zone)
  if (!against) return verdict === 'early' ? t('trials.asItIsEarly', { when }) : t('trials.asItIsIsBetter')
  const between = { name, low: points(against.low), high: points(against.high) }
  return verdict === 'early' ? t('trials.early', { ...between, when }) : t('trials.better', between)
}

/** What a trial says that has no answer: between what the difference lies, where there are two versions. */
function undecidedWords(trial: TrialView) {
  const only = trial.arms.length === 2 ? trial.arms[1]?.against : undefined
  if (!only || !isKnown(only) || only.low >= 0 || only.high <= 0) {
    return trial.runs ? t('trials.notYet') : t('trials.notFound', { findable: points(trial.plan.findable) })
  }
  const words = { less: points(only.low), more: points(only.high) }
  return trial.runs ? t('trials.notYetBetween', words) : t('trials.notFoundBetween', words)
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
