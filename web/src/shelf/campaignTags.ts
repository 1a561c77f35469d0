import { t } from '@/i18n'

/** The five campaign tags that the trade shares, in the order in which they are written. */
export const TAGS = [
  {
    field: 'source',
    name: 'utm_source',
    label: t('shelf.source'),
    example: 'studio_letter',
    description: t('shelf.whereItIsPut'),
  },
  {
    field: 'medium',
    name: 'utm_medium',
    label: t('common.medium'),
    example: 'email',
    description: t('shelf.whatKindOfPlace'),
  },
  {
    field: 'campaign',
    name: 'utm_campaign',
    label: t('common.campaign'),
    example: 'spring_firing',
    description: t('shelf.whatItIsPartOf'),
  },
  {
    field: 'term',
    name: 'utm_term',
    label: t('shelf.term'),
    example: 'bowls',
    description: t('shelf.aWordItWasBought'),
  },
  {
    field: 'content',
    name: 'utm_content',
    label: t('shelf.content'),
    example: 'top_button',
    description: t('shelf.whichOfSeveralLinks'),
  },
] as const
