<script setup lang="ts">
import { computed } from 'vue'
import type { Document, Strip } from '@/api/client'
import PagePiece from './PagePiece.vue'

/** A whole page, small: the very pieces of the strip, drawn true to phone width and scaled down. */
const props = defineProps<{
  strip: Strip
  document: Document
  /** HTML of the blocks where the strip has none of its own. */
  blocks?: Record<string, string>
  scale: number
}>()

const html = computed(() => {
  const drawn = { ...props.blocks, ...props.strip.blocks }
  const list = props.document.blocks
    .filter((block) => block.shown)
    .slice(0, props.scale < 1 ? 9 : undefined)
    .map((block) => {
      const half = block.offer?.shown === 'catalogue'
      return `<li${half ? ' class="half"' : ''}>${drawn[block.key] ?? ''}</li>`
    })
  const icons = props.strip.icons
  const below = props.document.icons.place === 'below'
  const { ground, header, footer } = props.strip
  const column = `${header}${below ? '' : icons}<ul class="blocks">${list.join('')}</ul>${below ? icons : ''}${footer}`
  return `${ground}<div class="column phone">${column}</div>`
})
</script>

<template>
  <div class="miniature" aria-hidden="true">
    <PagePiece class="drawn" :style="{ zoom: scale }" :html="html" :strip="strip" whole />
  </div>
</template>

<style scoped>
.miniature {
  overflow: hidden;
  position: relative;
}
.drawn {
  width: 360px;
  min-height: 720px;
}
</style>
