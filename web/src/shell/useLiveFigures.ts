import { useQueryClient } from '@tanstack/vue-query'
import { useDocumentVisibility, useIntervalFn, useThrottleFn } from '@vueuse/core'
import { onScopeDispose, watch, type Ref } from 'vue'

/** How often figures are asked for while the line is down, in milliseconds. */
const WITHOUT_LINE = 15_000

/** How often figures are asked for at most, however many clicks come. */
const AT_MOST = 500

/**
 * Follows the figures of a page while it is on screen: what shows them asks again when the
 * server says that there are new ones. While the line is down they are asked for now and then.
 */
export function useLiveFigures(page: Ref<string | undefined>) {
  const queries = useQueryClient()
  const visible = useDocumentVisibility()
  let line: EventSource | undefined

  const again = useThrottleFn(
    () => {
      void queries.invalidateQueries({ queryKey: ['readings'] })
      void queries.invalidateQueries({ queryKey: ['sources'] })
      void queries.invalidateQueries({ queryKey: ['trials'] })
    },
    AT_MOST,
    true,
  )
  const asking = useIntervalFn(again, WITHOUT_LINE, { immediate: false })

  function close() {
    line?.close()
    line = undefined
    asking.pause()
  }

  watch(
    [page, visible],
    ([id, seen]) => {
      close()
      if (!id || seen !== 'visible') return
      line = new EventSource(`/api/pages/${encodeURIComponent(id)}/live`)
      line.addEventListener('figures', again)
      line.addEventListener('open', () => {
        // What came while nobody listened.
        void again()
        asking.pause()
      })
      line.addEventListener('error', () => asking.resume())
    },
    { immediate: true },
  )
  onScopeDispose(close)
}
