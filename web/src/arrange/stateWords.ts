import type { PageState } from '@/api/client'
import { formatsOf, t } from '@/i18n'

/** How a block that shows at certain times only stands now, by the clocks of its zone. */
export function stateWords({ state, next }: PageState['ribbon']['blocks'][string], timeZone: string) {
  const at = next && momentWords(next, timeZone)
  if (state === 'in force') return at ? t('arrange.showsUntil', { at }) : t('arrange.showsAlways')
  if (state === 'over') return t('arrange.showsNoMore')
  return at ? t('arrange.showsFrom', { at }) : t('arrange.notNow')
}

/** A moment by the clocks of a zone, like "Fri 4 Dec, 09:00". */
export const momentWords = (moment: string, timeZone: string) =>
  new Date(moment).toLocaleString(formatsOf(), {
    weekday: 'short', day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', timeZone,
  }) // prettier-ignore
