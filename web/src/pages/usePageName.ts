import { useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { pagesQuery } from '@/api/queries'
import { usePageStore } from '@/page/pageStore'
import { nameOf } from './standing'

/** What a page is called, also for members who only read its figures and get no working copy. */
export function usePageName(pageId: MaybeRefOrGetter<string>) {
  const page = usePageStore()
  const { data: pages } = useQuery(pagesQuery())
  return computed(() => {
    const id = toValue(pageId)
    if (page.state?.id === id) return page.document?.header.name || page.state.address
    const listed = pages.value?.find((each) => each.id === id)
    return listed ? nameOf(listed) : ''
  })
}
