import { useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, toValue, type MaybeRefOrGetter, type Ref } from 'vue'

export type Level = 'L' | 'M' | 'Q' | 'H'

/** How a code is to look. */
export interface CodeLook {
  level: Ref<Level>
  ink: Ref<string>
  ground: Ref<string>
  mark: Ref<boolean>
}

/** The code of a source: its picture, the address it is drawn at, and what is wrong with how it is to look. */
export function useSourceCode(
  page: MaybeRefOrGetter<string>,
  source: MaybeRefOrGetter<string | undefined>,
  look: CodeLook,
) {
  const asked = computed(() =>
    new URLSearchParams({
      level: look.level.value,
      ink: look.ink.value,
      ground: look.ground.value,
      mark: String(look.mark.value),
    }).toString(),
  )
  const address = (format: 'svg' | 'png', query = asked.value) =>
    `/api/pages/${toValue(page)}/sources/${toValue(source)}/code?format=${format}&${query}`

  const settled = refDebounced(asked, 150)
  const { data, error } = useQuery({
    queryKey: computed(() => ['code', toValue(page), toValue(source), settled.value]),
    enabled: () => toValue(source) !== undefined,
    placeholderData: (before: string | undefined) => before,
    retry: false,
    queryFn: async () => {
      const answer = await fetch(address('svg', settled.value))
      if (!answer.ok) throw new Error(((await answer.json()) as { detail?: string }).detail)
      return `data:image/svg+xml,${encodeURIComponent(await answer.text())}`
    },
  })
  return { picture: data, wrong: computed(() => error.value?.message), address }
}
