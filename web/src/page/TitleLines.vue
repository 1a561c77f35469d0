<script setup lang="ts">
import { refDebounced, useEventListener } from '@vueuse/core'
import { computed } from 'vue'
import type { Block, Strip } from '@/api/client'
import { linesOf } from './linesOf'
import PagePiece from './PagePiece.vue'

/** Measures on how many lines the titles of buttons stand on a small phone: the page itself, drawn out of sight. */
const props = defineProps<{ strip: Strip; blocks: Block[] }>()
const emit = defineEmits<{ measured: [lines: Map<string, number>] }>()

const buttons = computed(() => props.blocks.filter(({ button }) => button).map(({ key }) => key))
const drawing = computed(() => {
  const rows = buttons.value.map((key) => `<li id="${key}">${props.strip.blocks[key] ?? ''}</li>`)
  return `<div class="column phone"><ul class="blocks">${rows.join('')}</ul></div>`
})

/** How long after a change they are measured, in milliseconds: nobody who types waits for it. */
const AFTER = 300
const html = refDebounced(drawing, AFTER)

let drawn: ShadowRoot | undefined
function measure(root = drawn) {
  drawn = root
  requestAnimationFrame(() => {
    if (document.fonts.status === 'loading') return // it is looked at again once they have come
    const lines = new Map<string, number>()
    for (const key of buttons.value) {
      const words = root?.getElementById(key)?.querySelector<HTMLElement>('.button .title')
      if (words) lines.set(key, linesOf(words))
    }
    emit('measured', lines)
  })
}
useEventListener(document.fonts, 'loadingdone', () => measure())
</script>

<template>
  <div class="out-of-sight" aria-hidden="true">
    <PagePiece :html="html" :strip="strip" whole @drawn="measure" />
  </div>
</template>

<style scoped>
/* The narrowest phones in use are 360 pixels wide. */
.out-of-sight {
  --zoom: 1;
  position: absolute;
  width: 360px;
  height: 0;
  overflow: hidden;
  visibility: hidden;
}
</style>
