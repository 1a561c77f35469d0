import { useEventListener } from '@vueuse/core'
import { nextTick, ref, watch, type Ref } from 'vue'
import type { Block } from '@/api/client'
import { isUndo } from '@/shell/undoKeys'

interface Actions {
  list: Readonly<Ref<HTMLElement | null>>
  blocks: Readonly<Ref<Block[]>>
  move: (key: string, to: number) => void
  toggle: (key: string) => void
  remove: (key: string) => void
  duplicate: (key: string) => void
  edit: (key: string) => void
}

/** Within which time an undone step is on screen, in milliseconds: the server may have to be asked for it. */
const UNDONE_WITHIN = 2000

/**
 * Arrange by keyboard. One row takes the Tab; in it:
 * up and down move the selection, Alt with them moves the row, Alt with Home and
 * End moves it to the top and bottom, D duplicates it, H hides or shows it, Enter
 * opens its editor, F2 renames it, Delete deletes it, right goes to its figures.
 */
export function useArrangeKeys(actions: Actions) {
  const current = ref<string>()

  const indexOf = (key: string) => actions.blocks.value.findIndex((block) => block.key === key)

  function isTabStop(key: string, index: number) {
    const known = current.value !== undefined && indexOf(current.value) >= 0
    return known ? current.value === key : index === 0
  }

  function focusRow(key: string | undefined) {
    if (!key) return
    current.value = key
    actions.list.value?.querySelector<HTMLElement>(`[data-key="${key}"]`)?.focus()
  }

  async function onRowKey(event: KeyboardEvent, key: string) {
    const row = event.currentTarget as HTMLElement
    if (
      event.target !== row &&
      !event.defaultPrevented &&
      (event.key === 'ArrowLeft' || event.key === 'Escape')
    ) {
      // From its figures back to the row.
      if ((event.target as HTMLElement).closest('[data-figure]')) row.focus()
    }
    if (event.target !== row || event.ctrlKey || event.metaKey) return
    const at = indexOf(key)
    const step = { ArrowUp: -1, ArrowDown: 1 }[event.key]
    if (step !== undefined) {
      event.preventDefault()
      if (event.altKey) actions.move(key, at + step)
      await nextTick()
      focusRow(event.altKey ? key : actions.blocks.value[at + step]?.key)
    } else if (event.altKey && (event.key === 'Home' || event.key === 'End')) {
      event.preventDefault()
      actions.move(key, event.key === 'Home' ? 0 : actions.blocks.value.length - 1)
      await nextTick()
      focusRow(key)
    } else if (event.key === 'ArrowRight') {
      row.querySelector<HTMLElement>('[data-figure]')?.focus()
    } else if (event.key === 'd') {
      actions.duplicate(key)
    } else if (event.key === 'Enter') {
      event.preventDefault()
      actions.edit(key)
    } else if (event.key === 'h') {
      actions.toggle(key)
    } else if (event.key === 'Delete') {
      const next = actions.blocks.value[at + 1] ?? actions.blocks.value[at - 1]
      actions.remove(key)
      await nextTick()
      focusRow(next?.key)
    }
  }

  // What is undone may move the row that has the focus, or take it away: then the one above has it, below which it was added.
  // It looks before the step is undone.
  const keepFocus = (event: KeyboardEvent) => {
    const row = (event.target as HTMLElement).closest<HTMLElement>('[data-key]')
    const key = row?.dataset.key
    if (!key || !isUndo(event)) return
    const at = indexOf(key)
    const restore = () => {
      // Whoever went on elsewhere meanwhile stays there.
      const { activeElement: now } = document
      if (now !== document.body && now !== row) return
      const { value: blocks } = actions.blocks
      if (indexOf(key) < 0) focusRow((blocks[at - 1] ?? blocks[0])?.key)
      else if (now !== row) focusRow(key)
    }
    const stop = watch(actions.blocks, () => void nextTick(restore), { flush: 'post', once: true })
    setTimeout(stop, UNDONE_WITHIN)
  }
  useEventListener('keydown', keepFocus, { capture: true })

  return { current, isTabStop, focusRow, onRowKey }
}
