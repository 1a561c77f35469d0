import { ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

/**
 * The row whose editor is open: a block's key, or "header", "icons" or "footer". It stands
 * in the address, so that a reload and another view can ask for it.
 */
export function useOpenRow() {
  const route = useRoute()
  const router = useRouter()
  const open = ref<string>()
  /** Changes of the address that are on their way and come from here. */
  let ours = 0

  watch(
    () => route.query.open,
    (row) => {
      if (ours === 0) open.value = typeof row === 'string' ? row : undefined
    },
    { immediate: true, flush: 'sync' },
  )
  watch(open, (row) => {
    if (row === (route.query.open ?? undefined)) return
    ours++
    void router.replace({ query: { ...route.query, open: row } }).finally(() => ours--)
  })
  return open
}
