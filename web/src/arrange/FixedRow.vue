<script setup lang="ts">
import type { Strip } from '@/api/client'
import PagePiece from '@/page/PagePiece.vue'
import FixedPiece from './FixedPiece.vue'

/** A row of the page that is no block and cannot be moved: the icons, the end. */
defineProps<{ label: string; html: string; strip: Strip; hollow: string; open: boolean; name: string }>()
const emit = defineEmits<{ open: [] }>()
</script>

<template>
  <div class="row">
    <div class="gutter"><slot name="gutter" /></div>
    <FixedPiece :class="{ hollow: !html }" :name="name" :label="label" :open="open" @open="emit('open')">
      <PagePiece v-if="html" :html="html" :strip="strip" />
      <p v-else>{{ hollow }}</p>
    </FixedPiece>
    <slot />
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: var(--gutter) var(--strip) minmax(0, 1fr);
  align-items: stretch;
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
}
</style>
