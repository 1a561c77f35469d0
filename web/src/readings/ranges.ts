import { formatsOf, t } from '@/i18n'

/** The ranges that figures can be read for, as the server names them. */
export const RANGES = [
  { value: 'today', label: t('readings.today') },
  { value: 'yesterday', label: t('readings.yesterday') },
  { value: '7d', label: t('readings.last7Days') },
  { value: '28d', label: t('readings.last28Days') },
  { value: '90d', label: t('readings.last90Days') },
  { value: 'month', label: t('readings.thisMonth') },
  { value: 'last-month', label: t('readings.lastMonth') },
  { value: 'all', label: t('readings.fromTheBeginning') },
]

/** Stands for two days that somebody chose. */
export const OWN_RANGE = 'own'

/** What a range can be compared with, as the server names it. */
export const COMPARISONS: { value: 'before' | 'weekdays' | 'none'; label: string }[] = [
  { value: 'before', label: t('readings.sameLengthBefore') },
  { value: 'weekdays', label: t('readings.sameWeekdays') },
  { value: 'none', label: t('readings.nothingElse') },
]

const days = new Intl.DateTimeFormat(formatsOf(), { dateStyle: 'medium', timeZone: 'UTC' })

/** The days of a span, like "4 Nov – 1 Dec 2026"; one day is one day. */
export const spanWords = (from: string, to: string) => days.formatRange(new Date(from), new Date(to))
