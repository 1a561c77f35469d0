import { t } from '@/i18n'

/** Why something was kept and not counted. */
export const REASONS: Record<string, string> = {
  crawler: 'crawlers',
  preview: t('readings.previewsForPosts'),
  prefetch: t('readings.fetchedAheadNotLookedAt'),
  own: t('readings.yourOwn'),
  flood: t('readings.tooManyFromOneAddress'),
  repeat: t('readings.repeatsWithin30Seconds'),
}
