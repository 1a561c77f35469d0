import { computed } from 'vue'
import type { Figure, Look } from '@/api/client'
import { usePageStore } from '@/page/pageStore'

/** The page's look, how to change it, and what its colours can be taken from. */
export function useLook() {
  const page = usePageStore()
  const look = computed(() => page.document?.look)

  /** Changes of the same setting that follow each other closely undo together. */
  function change(name: string, make: (look: Look) => void, join?: string) {
    page.change(name, (draft) => make(draft.look), join && `look/${join}`)
  }

  /** Contrast figures by what they are about. */
  const figures = computed(
    () => new Map<string, Figure>((page.state?.contrast ?? []).map((figure) => [figure.where, figure])),
  )

  /** Colours out of the logo, the cover and the background, each once. */
  const palette = computed(() => {
    const header = page.document?.header
    const pictures = [header?.picture, header?.cover, look.value?.ground.picture?.picture]
    return [...new Set(pictures.flatMap((picture) => picture?.palette ?? []))].slice(0, 12)
  })

  return { look, change, figures, palette }
}
