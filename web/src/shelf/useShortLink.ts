import { useQueryClient } from '@tanstack/vue-query'
import { useDebounceFn } from '@vueuse/core'
import { computed, onScopeDispose, ref, watch } from 'vue'
import { api, ApiError, take, type ListedLink, type ShortLink } from '@/api/client'
import { t } from '@/i18n'
import { sideWords } from '@/page/conflictWords'
import type { Autosave, Saving } from '@/saving/autosave'
import { beginEditing, editing } from '@/saving/editing'
import { copyJson } from '@/saving/json'
import { valueAt } from '@/saving/places'
import type { Words } from './shortLinks'

/** How long typing pauses before it is saved, in milliseconds: nothing on screen waits for it. */
const PAUSE = 400

const saving = (link: string): Saving<Words, ShortLink> => ({
  valueOf: (state) => state.link,
  revisionOf: (state) => state.revision,
  write: (content, revision) =>
    take(
      api.PUT('/api/short-links/{link}', { params: { path: { link } }, body: { revision, link: content } }),
    ),
})

const NAMES: Record<string, string> = {
  on: t('shelf.switchedOn'),
  windows: t('shelf.when'),
  preview: t('shelf.inPosts'),
}
const nameOf = (place: string) => NAMES[place] ?? place[0]!.toUpperCase() + place.slice(1)

/** The link as it is edited, wherever it was opened first. */
function editingOf(listed: ListedLink): Autosave<Words, ShortLink> {
  const of = `short-link/${listed.id}`
  const known = editing.value.get(of)?.autosave as Autosave<Words, ShortLink> | undefined
  if (!known) {
    return beginEditing<Words, ShortLink>(
      {
        of,
        name: ({ name }) => t('shelf.theShortLink', { address: name || listed.address }),
        saving: saving(listed.id),
        conflictSides: ({ places, base, theirs }, mine) =>
          places.map((place) => ({
            name: nameOf(place),
            mine: sideWords(valueAt(base, place), valueAt(mine, place)),
            theirs: sideWords(valueAt(base, place), valueAt(theirs.link, place)),
          })),
      },
      listed,
    )
  }
  if (listed.revision > known.state.revision) known.refresh(listed)
  return known
}

/** One short link as it is being changed. What is typed shows at once and saves itself behind. */
export function useShortLink(listed: () => ListedLink | undefined) {
  const client = useQueryClient()
  const id = ref<string>()
  const autosave = () => editing.value.get(`short-link/${id.value}`)?.autosave as Autosave<Words, ShortLink> | undefined // prettier-ignore
  const addressRefused = ref<string>()

  watch(
    listed,
    (now) => {
      if (!now) return
      if (now.id !== id.value) {
        void save()
        addressRefused.value = undefined
      }
      editingOf(now)
      id.value = now.id
    },
    { immediate: true },
  )

  const state = computed(() => autosave()?.state)
  const content = computed(() => autosave()?.value)
  const standing = computed(() => autosave()?.standing ?? 'saved')

  async function save() {
    const link = autosave()
    if (!link?.hasUnsaved) return
    await link.save()
    if (!link.hasUnsaved) await client.invalidateQueries({ queryKey: ['short-links'] })
  }
  const later = useDebounceFn(save, PAUSE)
  onScopeDispose(() => void save())

  /** Changes the link. */
  function set(change: Partial<Words>) {
    const link = autosave()
    link?.put(copyJson({ ...link.value, ...change }), later)
  }

  async function readdress(address: string) {
    const link = autosave()
    if (!link) return false
    try {
      const params = { path: { link: link.state.id } }
      link.adopt(await take(api.PUT('/api/short-links/{link}/address', { params, body: { address } })))
      addressRefused.value = undefined
      await client.invalidateQueries({ queryKey: ['short-links'] })
      return true
    } catch (error) {
      if (!(error instanceof ApiError)) throw error
      addressRefused.value = error.message
      return false
    }
  }

  /** Deletes the link, or keeps it after all; it waits before it is gone for good. */
  async function setDeleted(deleted: boolean) {
    const link = autosave()
    if (!link) return
    await link.save()
    const params = { path: { link: link.state.id } }
    const asked = deleted
      ? api.DELETE('/api/short-links/{link}', { params })
      : api.POST('/api/short-links/{link}/keep', { params })
    link.adopt(await take<ShortLink>(asked))
    await client.invalidateQueries({ queryKey: ['short-links'] })
  }

  /** Why a field, or one below it, cannot be kept as it is. */
  const about = (field: string) =>
    autosave()?.refusals.find(({ place }) => place === field || place.startsWith(`${field}/`))?.message
  /** What is wrong with none of the fields. */
  const elsewhere = computed(() =>
    standing.value === 'waiting' || (standing.value === 'refused' && autosave()?.refusals.length === 0)
      ? autosave()?.problem
      : undefined,
  )

  return { state, content, standing, set, save, readdress, setDeleted, addressRefused, about, elsewhere }
}
