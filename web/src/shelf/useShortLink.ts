import { useQueryClient } from '@tanstack/vue-query'
import { useDebounceFn } from '@vueuse/core'
import { computed, onScopeDispose, ref, watch } from 'vue'
import { api, ApiError, take, type ListedLink, type ShortLink } from '@/api/client'
import type { Words } from './shortLinks'

/** When a save that the server did not take is tried again, in milliseconds. */
const AGAIN = 2000

/**
 * One short link as it is being changed. What is typed shows at once and saves itself behind; what the
 * server refuses stays as it was typed, with the reason at its field.
 */
export function useShortLink(listed: () => ListedLink | undefined) {
  const client = useQueryClient()
  const state = ref<ShortLink>()
  const words = ref<Words>()
  const wrong = ref<{ field: string; says: string }>()
  const saving = ref(false)
  let unsaved = false

  watch(
    listed,
    (now) => {
      const other = now?.id !== state.value?.id
      // What comes in by itself never overwrites what is being typed.
      if (!now || (!other && (unsaved || saving.value || now.revision <= (state.value?.revision ?? 0))))
        return
      if (other) void save()
      begin(now)
    },
    { immediate: true },
  )

  function begin(with_: ShortLink) {
    state.value = with_
    words.value = structuredClone(JSON.parse(JSON.stringify(with_.link)) as Words)
    wrong.value = undefined
    unsaved = false
  }

  async function save(): Promise<void> {
    const link = state.value
    if (!link || !words.value || !unsaved) return
    if (saving.value) return void later()
    saving.value = true
    unsaved = false
    try {
      const saved = await take(
        api.PUT('/api/short-links/{link}', {
          params: { path: { link: link.id } },
          body: { revision: link.revision, link: words.value },
        }),
      )
      if (state.value?.id === saved.id) state.value = saved
      wrong.value = undefined
      await client.invalidateQueries({ queryKey: ['short-links'] })
    } catch (error) {
      refused(error, link.id)
      stillUnsaved(error, link.id)
      return
    } finally {
      saving.value = false
    }
    if (unsaved) await save()
  }

  function refused(error: unknown, id: string) {
    if (!(error instanceof ApiError)) throw error
    if (state.value?.id !== id) return // another link is open by now
    if (error.status === 409) begin((error.body as { current: ShortLink }).current)
    wrong.value = { field: error.field ?? '', says: error.message }
  }

  /** What could not be saved stays to be saved: with the next change, and by itself when the server was away. */
  function stillUnsaved(error: unknown, id: string) {
    if (!(error instanceof ApiError) || error.status === 409 || state.value?.id !== id) return
    unsaved = true
    if (error.status === 0 || error.status >= 500) setTimeout(() => void save(), AGAIN)
  }
  const later = useDebounceFn(save, 400)
  onScopeDispose(() => void save())

  /** Changes the link. */
  function set(change: Partial<Words>) {
    if (!words.value) return
    words.value = { ...words.value, ...change }
    unsaved = true
    void later()
  }

  async function readdress(address: string) {
    const link = state.value
    if (!link) return false
    try {
      state.value = await take(
        api.PUT('/api/short-links/{link}/address', {
          params: { path: { link: link.id } },
          body: { address },
        }),
      )
      wrong.value = undefined
      await client.invalidateQueries({ queryKey: ['short-links'] })
      return true
    } catch (error) {
      refused(error, link.id)
      return false
    }
  }

  /** Why a field, or one below it, cannot be kept as it is. */
  const about = (field: string) =>
    wrong.value && (wrong.value.field === field || wrong.value.field.startsWith(`${field}/`))
      ? wrong.value.says
      : undefined
  const FIELDS = [
    'address',
    'destination',
    'fallback',
    'windows',
    'preview',
    'labels',
    'note',
    'name',
    'redirect',
  ]
  /** What is wrong with none of the fields. */
  const elsewhere = computed(() =>
    wrong.value && !FIELDS.includes(wrong.value.field.split('/')[0] ?? '') ? wrong.value.says : undefined,
  )

  return { state, words, saving, set, save, readdress, about, elsewhere }
}
