import type { SignUpView } from '@/api/client'
import { t } from '@/i18n'
import { dayHere } from '@/shell/moments'

/** How far somebody's signing up has come. */
export function stateWords({ confirmedAt, toldAt, letters }: SignUpView) {
  if (!confirmedAt) return letters > 1 ? t('signUps.writtenTo', { n: letters }) : t('signUps.waiting')
  const confirmed = t('signUps.confirmedOn', { day: dayHere(confirmedAt) })
  return toldAt ? `${confirmed} ${t('signUps.handedOn')}` : confirmed
}
