import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { ribbonQuery } from '@/api/queries'
import { t } from '@/i18n'
import { usePageStore } from '@/page/pageStore'
import { useInAddress } from '@/shell/useInAddress'

export type Over = 'hours' | 'weeks' | 'months'

/** Over what the when lane can be drawn. */
export const OVERS: { value: Over; label: string }[] = [
  { value: 'hours', label: t('arrange.overHours') },
  { value: 'weeks', label: t('arrange.overWeeks') },
  { value: 'months', label: t('arrange.overMonths') },
]

/** When the blocks of the open page show, drawn over hours, weeks or months as the address of the view says. */
export function useRibbon() {
  const page = usePageStore()
  const chosen = useInAddress('over', 'weeks')
  const over = computed({
    get: (): Over => OVERS.find(({ value }) => value === chosen.value)?.value ?? 'weeks',
    set: (value) => (chosen.value = value),
  })
  const { data } = useQuery(
    ribbonQuery(
      () => page.state?.id,
      () => page.state?.revision,
      over,
    ),
  )
  // That of weeks comes with the page itself; it stands in until another has come.
  const ribbon = computed(() => (over.value === 'weeks' ? undefined : data.value) ?? page.state?.ribbon)
  return { over, ribbon }
}
