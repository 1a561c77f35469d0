import { t } from '@/i18n'

export const ALIGNMENTS = [
  { value: 'left', label: t('kinds.left') },
  { value: 'centre', label: t('kinds.inTheMiddle') },
] as const
