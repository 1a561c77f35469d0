import { formatsOf } from '@/i18n'

/** A day by the clocks of this device. */
export const dayHere = (at: string) => new Date(at).toLocaleDateString(formatsOf(), { dateStyle: 'medium' })

/** A day and the time of it, by the clocks of this device. */
export const timeHere = (at: string) =>
  new Date(at).toLocaleString(formatsOf(), { dateStyle: 'medium', timeStyle: 'short' })
