import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { seenQuery } from '@/api/queries'
import { t } from '@/i18n'
import { readable } from '@/kinds/readable'
import { usePageStore } from '@/page/pageStore'
import { useInAddress } from '@/shell/useInAddress'

/** The page as it will be at a moment, and as somebody from a source sees it; now and from anywhere, unless asked. */
export function useSeen(pageId: () => string) {
  const page = usePageStore()
  const route = useRoute()
  const router = useRouter()
  const at = useInAddress('at', '')
  const from = useInAddress('from', '')
  const asked = computed(() => at.value !== '' || from.value !== '')
  const { data } = useQuery(seenQuery(pageId, at, from, () => page.state?.revision, asked))
  const keys = computed(() => (asked.value ? data.value?.blocks : undefined))
  /** What is there instead of the page, in words; empty where the page is. */
  const instead = computed(() => {
    if (!asked.value || !data.value) return ''
    const { passThrough, closed } = data.value
    if (passThrough) return t('arrange.leadsStraightTo', { address: readable(passThrough) })
    return closed ? t('arrange.closedThen') : ''
  })
  /** Sees the page as it is again. Both go at once: the address is written anew. */
  const back = () => router.replace({ query: { ...route.query, at: undefined, from: undefined } })
  return { at, from, keys, instead, back }
}
