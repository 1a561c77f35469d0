import { t } from '@/i18n'

/** The ranges that figures can be read for, as the server names them. */
export const RANGES = [
  { value: '7d', label: t('readings.last7Days') },
  { value: '28d', label: t('readings.last28Days') },
  { value: '90d', label: t('readings.last90Days') },
  { value: 'month', label: t('readings.thisMonth') },
  { value: 'all', label: t('readings.fromTheBeginning') },
]
