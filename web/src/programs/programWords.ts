import type { Delivery, Webhook, WebhookWish } from '@/api/client'
import { t } from '@/i18n'
import { timeHere } from '@/shell/moments'

/** What a token may do, in words. */
export const mayWords = (role: 'reads' | 'edits' | 'runs') =>
  role === 'reads' ? t('programs.readsFigures') : t('programs.changesPages')

/** What a webhook can be told. */
export const KINDS: { value: Webhook['kinds'][number]; label: string }[] = [
  { value: 'page.published', label: t('programs.pagePublished') },
  { value: 'clicks.reached', label: t('programs.clicksReached') },
  { value: 'source.first_seen', label: t('programs.sourceFirstSeen') },
  { value: 'address.broken', label: t('programs.addressBroken') },
  { value: 'sign_up.confirmed', label: t('programs.signUpConfirmed') },
  { value: 'sign_up.removed', label: t('programs.signUpRemoved') },
  { value: 'booking.asked', label: t('programs.bookingAsked') },
  { value: 'booking.changed', label: t('programs.bookingChanged') },
  { value: 'payment.made', label: t('programs.paymentMade') },
  { value: 'payment.refunded', label: t('programs.paymentRefunded') },
]

export const kindWords = (kind: string) =>
  KINDS.find(({ value }) => value === kind)?.label ?? t('programs.trialMessage')

/** What a webhook is told, one after the other. */
export const wishWords = ({ kinds, clicks }: WebhookWish) =>
  kinds
    .map((kind) => (kind === 'clicks.reached' ? t('programs.clickedTimes', { clicks }) : kindWords(kind)))
    .join(' · ')

/** What came of a message. */
export function cameOf({ state, status, failure, attempts, nextAt }: Delivery) {
  if (state === 'delivered') return t('programs.arrived', { status })
  const why = status ? t('programs.answered', { status }) : failure
  if (state === 'failed') return t('programs.givenUp', { why, attempts })
  if (!attempts) return t('programs.onItsWay')
  return t('programs.triedAgain', { why, when: timeHere(nextAt!) })
}
