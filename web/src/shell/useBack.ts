import { useEventListener, useMutationObserver } from '@vueuse/core'
import { closeLast, opened } from '@/fields/overlays'

/** Where there is a Back at hand that people press to close something. */
const PHONES = '(max-width: 720px), (pointer: coarse)'

const depthNow = () => (history.state as { opened?: number } | null)?.opened ?? 0

/**
 * On a phone, Back closes what was opened last and stays in the view. Whatever opens
 * adds a step to the browser's history, as many deep as things are open; a step whose
 * thing was closed in another way is passed over.
 */
export function useBack() {
  let depth = depthNow()

  useMutationObserver(
    document.body,
    () => {
      const open = opened()
      depth = depthNow()
      if (open <= depth || !matchMedia(PHONES).matches) return
      for (; depth < open; depth++) history.pushState({ ...history.state, opened: depth + 1 }, '')
    },
    { childList: true, subtree: true },
  )

  useEventListener(window, 'popstate', () => {
    const [before, now] = [depth, depthNow()]
    depth = now
    if (before <= now) return
    if (opened() > now) closeLast()
    else history.back()
  })
}
