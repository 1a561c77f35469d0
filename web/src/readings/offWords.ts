import type { Off } from '@/api/client'
import { count, counted } from '@/figures'
import { formatsOf, t } from '@/i18n'

const day = new Intl.DateTimeFormat(formatsOf(), {
  weekday: 'short',
  day: 'numeric',
  month: 'short',
  timeZone: 'UTC',
})

/** What is off, in a sentence, and its likely reason; empty when nothing is. */
export function offWords(off: Off): string {
  if (!off.kind) return ''
  const words = {
    title: off.title,
    since: day.format(new Date(`${off.since}T00:00:00Z`)),
    usual: count(Math.round(off.expected)),
    times: counted(off.came, off.source ? 'visit' : 'time'),
  }
  if (off.kind === 'spike') {
    const took = off.source ? t('off.sourceTookOff', words) : t('off.buttonTookOff', words)
    return off.from ? `${took} ${t('off.mostFrom', { from: off.from })}` : took
  }
  if (off.source) return `${t('off.sourceSilent', words)} ${t('off.maybeTakenOut')}`
  const silent = t('off.buttonSilent', words)
  if (!off.failed) return silent
  return `${silent} ${off.status ? t('off.answered', { status: off.status }) : t('off.noAnswer')}`
}
