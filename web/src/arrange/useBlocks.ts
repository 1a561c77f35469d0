import { computed, ref } from 'vue'
import type { Block } from '@/api/client'
import { copyOf, newBlock, type KindEntry } from '@/kinds/registry'
import { titleOf } from '@/page/blockWords'
import { usePageStore } from '@/page/pageStore'

/** The blocks of the page in their order, and what can be done to them: each one step that Undo can say. */
export function useBlocks() {
  const page = usePageStore()
  const blocks = computed<Block[]>(() => page.document?.blocks ?? [])
  /** Place on the page from 1, 0 for what is hidden. */
  const places = computed(() => {
    let place = 0
    return new Map(blocks.value.map((block) => [block.key, block.shown ? ++place : 0]))
  })
  /** What was deleted last, as long as Undo would bring it back. */
  const deleted = ref<string>()

  const find = (key: string | undefined) => blocks.value.find((block) => block.key === key)
  const indexOf = (key: string | undefined) => blocks.value.findIndex((block) => block.key === key)
  const name = (key: string) => `“${titleOf(find(key))}”`

  function move(key: string, to: number) {
    const from = indexOf(key)
    if (from < 0 || to < 0 || to >= blocks.value.length || from === to) return
    page.change(`Move ${name(key)}`, (draft) => {
      const [moved] = draft.blocks.splice(from, 1)
      if (moved) draft.blocks.splice(to, 0, moved)
    })
  }

  function toggle(key: string) {
    const does = find(key)?.shown ? 'Hide' : 'Show'
    page.changeBlock(`${does} ${name(key)}`, key, (block) => (block.shown = !block.shown))
  }

  function remove(key: string) {
    const step = `Delete ${name(key)}`
    page.change(step, (draft) => {
      draft.blocks = draft.blocks.filter((block) => block.key !== key)
    })
    deleted.value = step
  }

  /** Puts a copy of a block below it, and returns the copy. */
  function duplicate(key: string) {
    const block = find(key)
    if (!block) return undefined
    const copy = copyOf(block)
    page.change(`Duplicate ${name(key)}`, (draft) => void draft.blocks.splice(indexOf(key) + 1, 0, copy))
    return copy
  }

  /** Adds a block that cannot be pasted, below another or at the end, and returns it. */
  function add(kind: KindEntry, below: string | undefined) {
    const block = newBlock(kind)
    const after = indexOf(below)
    page.change(`Add a ${kind.label.toLowerCase()}`, (draft) => {
      draft.blocks.splice(after < 0 ? draft.blocks.length : after + 1, 0, block)
    })
    return block
  }

  return { blocks, places, deleted, find, move, toggle, remove, duplicate, add }
}
