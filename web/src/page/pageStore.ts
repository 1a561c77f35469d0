import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import {
  ApiError,
  api,
  take,
  type Block,
  type Document,
  type NewTakeover,
  type PageState,
} from '@/api/client'
import { t } from '@/i18n'
import { draftsOf } from '@/saving/drafts'
import { editing, forgetEditing } from '@/saving/editing'
import { useSession } from '@/session'
import { titleOf } from './blockWords'
import { WorkingCopy } from './workingCopy'

/** Within which a change is live on a page that goes live as it is edited, in milliseconds. */
const LIVE_WITHIN = 2_000

/** When a page that could not be had is asked for again, in milliseconds. */
const AGAIN = 3_000

/**
 * The page being worked on, and those worked on before that may still be on their
 * way to the server.
 */
export const usePageStore = defineStore('page', () => {
  const copies = new Map<string, WorkingCopy>()
  const current = shallowRef<WorkingCopy>()
  /** Why the page that was asked for cannot be shown. */
  const missing = ref('')
  /** Why a step could not be taken back or done again. */
  const notUndone = ref('')
  /** The row that was deleted last, and the step that did it. */
  const deleted = ref<{ name: string; step: string }>()
  let asked = ''

  /** The working copy, for whoever is to learn of its changes. */
  const watched = () => (editing.value, current.value)
  const state = computed(() => watched()?.autosave.state)
  const document = computed(() => watched()?.document)
  const loaded = computed(() => current.value !== undefined)
  const saving = computed(() => watched()?.autosave.standing ?? 'saved')
  const problem = computed(() => watched()?.autosave.problem ?? '')
  const refusals = computed(() => watched()?.autosave.refusals ?? [])
  const undoable = computed(() => watched()?.history.undoable)
  const redoable = computed(() => watched()?.history.redoable)
  const stepping = computed(() => watched()?.isStepping ?? false)

  /** Shows a page. One that was open before goes on being saved. */
  async function open(id: string) {
    asked = id
    missing.value = ''
    const known = copies.get(id)
    current.value = known
    if (known?.autosave.hasUnsaved) return
    try {
      if (known) await bringUpToDate(known)
      else {
        const found = await fetchState(id)
        if (!copies.has(id)) copies.set(id, new WorkingCopy(found))
      }
      await copies.get(id)?.ready
      if (asked === id) current.value = copies.get(id)
      void resumeOthers()
    } catch (error) {
      if (asked !== id || known) return
      if (!(error instanceof ApiError) || error.status !== 0) throw error
      missing.value = error.message
      setTimeout(() => asked === id && void open(id), AGAIN)
    }
  }

  let resumed = false

  /** Goes on saving what was typed into other pages before this tab was loaded anew. */
  async function resumeOthers() {
    if (resumed) return
    resumed = true
    // A browser that keeps nothing has nothing to go on with.
    const drafts = await draftsOf(useSession().me?.email ?? '').catch(() => [])
    for (const of of drafts) {
      const [kind, id] = of.split('/')
      if (kind !== 'page' || !id || copies.has(id)) continue
      const found = await fetchState(id).catch(() => undefined)
      if (found && !copies.has(id)) copies.set(id, new WorkingCopy(found))
    }
  }

  /** Takes in the page as the server has it. An answer that was asked for before a save is older than the save's own. */
  async function bringUpToDate({ id, autosave }: WorkingCopy) {
    const before = autosave.state
    const found = await fetchState(id)
    if (autosave.state === before) autosave.refresh(found)
  }

  const fetchState = (page: string) => take(api.GET('/api/pages/{page}', { params: { path: { page } } }))

  function change(name: string, make: (draft: Document) => void, join?: string) {
    current.value?.change(name, make, join)
  }

  function changeBlock(name: string, key: string, make: (block: Block) => void, join?: string) {
    current.value?.changeBlock(name, key, make, join)
  }

  /**
   * The working copy that is open now, for whoever changes it after having waited for something: another page
   * may be open by then.
   */
  const opened = () => current.value

  /** Takes the last step back, or does it again. */
  async function step(back: boolean) {
    notUndone.value = ''
    try {
      const taken = await current.value?.step(back)
      if (!taken?.alsoOn) return
      const other = await copyOf(taken.alsoOn)
      if (!(await other.stepOf(taken.key, back))) notUndone.value = t('page.changedOnTheOtherPage')
    } catch (error) {
      notUndone.value = (error as Error).message
    }
  }

  /** The working copy of a page that need not be shown. */
  async function copyOf(id: string) {
    const known = copies.get(id)
    if (known) return known
    const found = await fetchState(id)
    if (!copies.has(id)) copies.set(id, new WorkingCopy(found))
    return copies.get(id)!
  }

  /** Puts a block at the end of another page; moved, it goes from the open one, and Undo brings both back. */
  async function putOn(target: { id: string; label: string }, block: Block, moving: boolean) {
    const from = current.value
    const title = titleOf(block)
    const name = moving
      ? t('page.moveToPage', { title, page: target.label })
      : t('page.copyToPage', { title, page: target.label })
    const step = crypto.randomUUID()
    const params = { path: { page: target.id } }
    const body = { blocks: [block], step, name }
    const there = await take(api.POST('/api/pages/{page}/blocks', { params, body }))
    copies.get(target.id)?.autosave.catchUp(there)
    if (!moving) return
    const leave = (draft: Document) =>
      void (draft.blocks = draft.blocks.filter(({ key }) => key !== block.key))
    from?.change(name, leave, undefined, { key: step, alsoOn: target.id })
  }

  const save = async () => current.value?.autosave.save()

  /** Learns what was changed elsewhere, unless something here is unsaved. */
  async function refresh() {
    const copy = current.value
    if (copy && !copy.autosave.hasUnsaved) await bringUpToDate(copy)
  }

  /** Publishes what the words in state.changes say, and nothing that came after them. */
  async function publish(endsLinks = false) {
    const copy = current.value
    if (!copy) return
    const { autosave } = copy
    const said = autosave.state.revision
    await autosave.save()
    const { revision } = autosave.state
    if (revision !== said) throw new Error(t('page.thePageChangedMeanwhileAbove')) // prettier-ignore
    if (autosave.standing !== 'saved' && autosave.refusals.length === 0) throw new Error(autosave.problem)
    const path = { page: copy.id }
    try {
      const published = await take(
        api.POST('/api/pages/{page}/publish', { params: { path }, body: { revision, endsLinks } }),
      )
      autosave.adopt(published)
    } catch (error) {
      if (error instanceof ApiError && error.status === 409)
        autosave.catchUp((error.body as { current: PageState }).current)
      throw error
    }
  }

  /** Lets something take the place of the page for a while. It is live at once. */
  const beginTakeover = (body: NewTakeover) =>
    adopt((page) => api.POST('/api/pages/{page}/takeovers', { params: { path: { page } }, body }))

  const endTakeover = (takeover: string) =>
    adopt((page) =>
      api.DELETE('/api/pages/{page}/takeovers/{takeover}', { params: { path: { page, takeover } } }),
    )

  /** Puts the page to rest at once, with what visitors read meanwhile. */
  const rest = (notice: string) =>
    adopt((page) => api.PUT('/api/pages/{page}/rest', { params: { path: { page } }, body: { notice } }))

  /** Lets each saved change go live by itself, beginning with what waits, or no longer. */
  const setAsEdited = (on: boolean) =>
    adopt((page) => api.PUT('/api/pages/{page}/as-edited', { params: { path: { page } }, body: { on } }))
  // What goes live by itself is learnt a moment later.
  watch(
    () =>
      state.value?.asEdited && state.value.changes.length > 0 && `${state.value.id} ${state.value.revision}`,
    (waiting) => {
      if (waiting) setTimeout(() => void refresh().catch(() => {}), LIVE_WITHIN)
    },
  )

  const wake = () => adopt((page) => api.DELETE('/api/pages/{page}/rest', { params: { path: { page } } }))

  /** Asks for something that changes nothing of the working copy, once that is saved. */
  async function adopt(ask: (page: string) => Parameters<typeof take<PageState>>[0]) {
    const copy = current.value
    if (!copy) return
    await copy.autosave.save()
    copy.autosave.adopt(await take(ask(copy.id)))
  }

  /** An address as it is to be linked; throws with the reason when it cannot be. */
  async function readAddress(text: string) {
    const read = await take(api.GET('/api/addresses', { params: { query: { address: text } } }))
    return read.address
  }

  /** What the server makes of lines pasted on a page; nothing is added yet. */
  function readPaste(text: string, page: string) {
    const path = { page }
    return take(api.POST('/api/pages/{page}/paste', { params: { path }, body: { text } }))
  }

  const changeAddress = (address: string) =>
    adopt((page) => api.PUT('/api/pages/{page}/address', { params: { path: { page } }, body: { address } }))

  /** Why what stands at a place of the document cannot be saved. */
  const refusedAt = (place: string) => refusals.value.find((refusal) => refusal.place === place)?.message

  function forget() {
    forgetEditing()
    copies.clear()
    current.value = undefined
    asked = ''
    resumed = false
  }

  return {
    state, document, saving, problem, refusals, undoable, redoable, stepping, loaded, missing, deleted,
    open, opened, change, changeBlock, undo: () => step(true), redo: () => step(false), notUndone,
    save, publish, refresh, readPaste, readAddress, changeAddress, beginTakeover,
    endTakeover, rest, wake, setAsEdited, refusedAt, forget, putOn,
  } // prettier-ignore
})
