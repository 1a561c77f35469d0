import { watch, type ComputedRef, type Ref } from 'vue'
import { useDraggable } from 'vue-draggable-plus'
import type { Block } from '@/api/client'

/** Moves rows by their grips. */
export function useRowDrag(
  list: Readonly<Ref<HTMLElement | null>>,
  blocks: ComputedRef<Block[]>,
  move: (key: string, to: number) => void,
) {
  const drag = useDraggable(list, blocks, {
    immediate: false,
    handle: '.grip',
    animation: 150,
    customUpdate: ({ item, oldIndex = 0, newIndex = 0 }) => {
      // The list follows the document: put the row back and let it be drawn anew.
      const siblings = [...(list.value?.children ?? [])].filter((child) => child !== item)
      list.value?.insertBefore(item, siblings[oldIndex] ?? null)
      const key = blocks.value[oldIndex]?.key
      if (key) move(key, newIndex)
    },
  })

  // The list is there once the page is.
  watch(list, (element) => element && drag.start(element))
}
