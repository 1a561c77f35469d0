import { computed } from 'vue'
import type { Block } from '@/api/client'
import { t } from '@/i18n'
import { copyOf, newBlock, type KindEntry } from '@/kinds/registry'
import { titleOf } from '@/page/blockWords'
import { usePageStore } from '@/page/pageStore'
import { useZone } from '@/shell/useZone'

/** Why blocks cannot be added. */
export function noRoom(there: number, more: number, most: number) {
  const left = Math.max(0, most - there)
  const room = left === 0 ? t('arrange.thisOneIsFull') : t('arrange.thereIsRoomForMore', { left, more })
  return t('arrange.aPageHoldsAtMost', { most, room })
}

/**
 * The blocks of the page in their order, and what can be done to them: each one step that Undo can say. What cannot be
 * done is said in words.
 */
export function useBlocks(say: (words: string) => void) {
  const page = usePageStore()
  const zone = useZone()
  const blocks = computed<Block[]>(() => page.document?.blocks ?? [])
  /** Place on the page from 1, 0 for what is hidden. */
  const places = computed(() => {
    let place = 0
    return new Map(blocks.value.map((block) => [block.key, block.shown ? ++place : 0]))
  })

  const find = (key: string | undefined) => blocks.value.find((block) => block.key === key)
  const indexOf = (key: string | undefined) => blocks.value.findIndex((block) => block.key === key)
  const name = (key: string) => `“${titleOf(find(key))}”`

  /** Whether so many more fit on the page; says so when they do not. */
  function fits(more: number) {
    const most = page.state?.limits.blocks ?? 0
    if (blocks.value.length + more <= most) return true
    say(noRoom(blocks.value.length, more, most))
    return false
  }

  function move(key: string, to: number) {
    const from = indexOf(key)
    if (from < 0 || to < 0 || to >= blocks.value.length || from === to) return
    page.change(t('arrange.move', { name: name(key) }), (draft) => {
      const [moved] = draft.blocks.splice(from, 1)
      if (moved) draft.blocks.splice(to, 0, moved)
    })
  }

  function toggle(key: string) {
    const does = find(key)?.shown ? t('arrange.hide') : t('arrange.show')
    page.changeBlock(`${does} ${name(key)}`, key, (block) => (block.shown = !block.shown))
  }

  function remove(key: string) {
    const deleted = name(key)
    const step = t('arrange.deleteRow', { name: deleted })
    page.change(step, (draft) => {
      draft.blocks = draft.blocks.filter((block) => block.key !== key)
    })
    page.deleted = { name: deleted, step }
  }

  /** Puts a copy of a block below it, and returns the copy. */
  function duplicate(key: string) {
    const block = find(key)
    if (!block || !fits(1)) return undefined
    const copy = copyOf(block)
    page.change(
      t('arrange.duplicateRow', { name: name(key) }),
      (draft) => void draft.blocks.splice(indexOf(key) + 1, 0, copy),
    )
    return copy
  }

  /** Adds a block that cannot be pasted, below another or at the end, and returns it. */
  function add(kind: KindEntry, below: string | undefined) {
    if (!fits(1)) return undefined
    const block = newBlock(kind, zone.value)
    const after = indexOf(below)
    page.change(t('arrange.addA', { kind: kind.label.toLowerCase() }), (draft) => {
      draft.blocks.splice(after < 0 ? draft.blocks.length : after + 1, 0, block)
    })
    return block
  }

  return { blocks, places, move, toggle, remove, duplicate, add }
}
