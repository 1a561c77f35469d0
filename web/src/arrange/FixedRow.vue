<script setup lang="ts">
import type { Strip } from '@/api/client'
import PagePiece from '@/page/PagePiece.vue'

/** A row of the page that is no block and cannot be moved: the icons, the end. */
defineProps<{ label: string; html: string; strip: Strip; hollow: string; open: boolean; name: string }>()
const emit = defineEmits<{ open: [] }>()
</script>

<template>
  <div class="row">
    <div class="gutter"><slot name="gutter" /></div>
    <div class="piece" :class="{ open, hollow: !html }" :data-row="name">
      <button class="press" type="button" :aria-label="label" @click="emit('open')"></button>
      <PagePiece v-if="html" :html="html" :strip="strip" />
      <p v-else>{{ hollow }}</p>
    </div>
    <slot />
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: var(--gutter) var(--strip) minmax(0, 1fr);
  align-items: stretch;
}
.piece {
  position: relative;
  padding: 6px 20px;
  cursor: pointer;
}
.piece.open,
.piece:hover {
  box-shadow: inset 0 0 0 2px var(--accent);
}
.press {
  position: absolute;
  inset: 0;
  border: 0;
  background: none;
  cursor: pointer;
  z-index: 1;
}
.hollow p {
  text-align: center;
  font-size: 0.87rem;
  color: var(--page-soft);
  border: 1px dashed currentColor;
  border-radius: 8px;
  padding: 6px;
}
@media (max-width: 720px) {
  .row {
    grid-template-columns: var(--gutter) minmax(0, 1fr) 54px;
  }
  .piece {
    padding: calc(6px * var(--zoom)) calc(20px * var(--zoom));
  }
}
</style>
