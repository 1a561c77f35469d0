import { formatsOf } from '@/i18n'

/** A day, as people write it. */
export const dayWords = (at: string) => new Date(at).toLocaleDateString(formatsOf(), { dateStyle: 'medium' })

/** A day and the time of it. */
export const momentWords = (at: string) =>
  new Date(at).toLocaleString(formatsOf(), { dateStyle: 'medium', timeStyle: 'short' })
