import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { ApiError, api, take, type Block, type Document, type PageState } from '@/api/client'
import { History } from './history'

/** Where the working copy stands against what the server keeps. */
export type Saving = 'saved' | 'saving' | 'waiting' | 'refused'

const RETRY_AFTER = 3_000

/**
 * The page being worked on. Every change goes into the working copy at once and
 * is saved behind it; what comes back from the server never overwrites what was
 * changed in the meantime.
 */
export const usePageStore = defineStore('page', () => {
  const state = shallowRef<PageState>()
  const document = shallowRef<Document>()
  const saving = ref<Saving>('saved')
  const problem = ref('')
  /** The page as somebody else left it, when our write came too late. */
  const newer = shallowRef<PageState>()
  const history = new History<Document>()
  const undoable = ref<string>()
  const redoable = ref<string>()
  let unsaved = false
  let inFlight: Promise<void> | undefined
  let opening = ''

  const loaded = computed(() => state.value !== undefined && document.value !== undefined)

  async function open(id: string) {
    if (state.value?.id === id) return
    opening = id
    state.value = undefined
    document.value = undefined
    newer.value = undefined
    problem.value = ''
    history.clear()
    noteHistory()
    const found = await take(api.GET('/api/pages/{page}', { params: { path: { page: id } } }))
    if (opening === id) adopt(found)
  }

  function adopt(next: PageState) {
    state.value = next
    document.value = next.document
    saving.value = 'saved'
  }

  function noteHistory() {
    undoable.value = history.undoable
    redoable.value = history.redoable
  }

  /** Makes a change under a name that Undo can say. Changes with the same join, as in typing, are one step. */
  function change(name: string, make: (draft: Document) => void, join?: string) {
    if (!document.value) return
    const next = structuredClone(document.value)
    make(next)
    if (JSON.stringify(next) === JSON.stringify(document.value)) return
    history.push(name, document.value, join)
    noteHistory()
    put(next)
  }

  function changeBlock(name: string, key: string, make: (block: Block) => void, join?: string) {
    change(
      name,
      (draft) => {
        const block = draft.blocks.find((each) => each.key === key)
        if (block) make(block)
      },
      join,
    )
  }

  /**
   * Fills something into a block that the creator did not do and need not undo:
   * it becomes part of every step in which the block is there.
   */
  function fillIn(key: string, make: (block: Block) => void) {
    const filled = (before: Document) => {
      const next = structuredClone(before)
      const block = next.blocks.find((each) => each.key === key)
      if (block) make(block)
      return next
    }
    if (!document.value) return
    history.amend(filled)
    put(filled(document.value))
  }

  function put(next: Document) {
    document.value = next
    unsaved = true
    if (newer.value) return
    saving.value = 'saving'
    void save()
  }

  function step(back: boolean) {
    if (!document.value) return
    const previous = back ? history.undo(document.value) : history.redo(document.value)
    noteHistory()
    if (previous) put(previous)
  }

  /** Saves until nothing is unsaved; calls while it does so join in. */
  function save(): Promise<void> {
    inFlight ??= saveAll().finally(() => (inFlight = undefined))
    return inFlight
  }

  async function saveAll() {
    // Begin after whoever called is done, so that several changes go together.
    await Promise.resolve()
    while (unsaved && state.value && document.value) {
      unsaved = false
      saving.value = 'saving'
      const { id, revision } = state.value
      try {
        const saved = await take(
          api.PUT('/api/pages/{page}/draft', {
            params: { path: { page: id } },
            body: { revision, document: document.value },
          }),
        )
        if (state.value?.id !== id) return
        state.value = saved
        problem.value = ''
        if (!unsaved) adopt(saved)
      } catch (error) {
        unsaved = true
        if (await cannotGoOn(error as ApiError)) return
      }
    }
  }

  /** Takes in why a save failed; true when only the creator can go on. */
  async function cannotGoOn(error: ApiError): Promise<boolean> {
    problem.value = error.message
    if (error.status === 409) {
      newer.value = (error.body as { current: PageState }).current
      saving.value = 'refused'
      return true
    }
    if (error.status >= 400 && error.status < 500) {
      saving.value = 'refused'
      return true
    }
    saving.value = 'waiting'
    await new Promise((resolve) => setTimeout(resolve, RETRY_AFTER))
    return false
  }

  /** After a 409: go on with the page as it stands now. */
  function takeNewer() {
    if (!newer.value) return
    unsaved = false
    history.clear()
    noteHistory()
    adopt(newer.value)
    newer.value = undefined
    problem.value = ''
  }

  /** After a 409: put what is on screen over it, knowing that it differs. */
  async function keepMine() {
    if (!newer.value) return
    state.value = newer.value
    newer.value = undefined
    problem.value = ''
    await save()
  }

  const hasUnsaved = () => unsaved || saving.value !== 'saved'

  /** Publishes what the words in state.changes say, and nothing that came after them. */
  async function publish(endsLinks = false) {
    if (hasUnsaved()) {
      await save()
      throw new Error(
        problem.value || 'The page changed meanwhile. Above is what publishing it would change now.',
      )
    }
    if (!state.value) return
    const { id, revision } = state.value
    try {
      adopt(
        await take(
          api.POST('/api/pages/{page}/publish', {
            params: { path: { page: id } },
            body: { revision, endsLinks },
          }),
        ),
      )
    } catch (error) {
      if (error instanceof ApiError && error.status === 409) await cannotGoOn(error)
      throw error
    }
  }

  /** An address as it is to be linked; throws with the reason when it cannot be. */
  async function readAddress(text: string) {
    const read = await take(api.GET('/api/addresses', { params: { query: { address: text } } }))
    return read.address
  }

  /** What the server makes of pasted lines; nothing is added yet. */
  function readPaste(text: string) {
    const path = { page: state.value?.id ?? '' }
    return take(api.POST('/api/pages/{page}/paste', { params: { path }, body: { text } }))
  }

  async function changeAddress(address: string) {
    await save()
    if (!state.value) return
    const found = await take(
      api.PUT('/api/pages/{page}/address', { params: { path: { page: state.value.id } }, body: { address } }),
    )
    state.value = found
  }

  function forget() {
    state.value = undefined
    document.value = undefined
    opening = ''
  }

  return {
    state, document, saving, problem, newer, undoable, redoable, loaded,
    open, change, changeBlock, fillIn, undo: () => step(true), redo: () => step(false),
    save, publish, takeNewer, keepMine, readPaste, readAddress, changeAddress, forget, hasUnsaved,
  } // prettier-ignore
})
