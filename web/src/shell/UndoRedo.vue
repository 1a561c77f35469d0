<script setup lang="ts">
import { Redo2, Undo2 } from '@lucide/vue'
import { usePageStore } from '@/page/pageStore'

const page = usePageStore()
</script>

<template>
  <div class="history">
    <button
      v-tooltip.bottom="page.undoable ? `Undo: ${page.undoable}` : 'Nothing to undo'"
      class="tool"
      type="button"
      aria-label="Undo"
      :disabled="!page.undoable"
      @click="page.undo"
    >
      <Undo2 aria-hidden="true" />
    </button>
    <button
      v-tooltip.bottom="page.redoable ? `Redo: ${page.redoable}` : 'Nothing to redo'"
      class="tool"
      type="button"
      aria-label="Redo"
      :disabled="!page.redoable"
      @click="page.redo"
    >
      <Redo2 aria-hidden="true" />
    </button>
  </div>
</template>

<style scoped>
.history {
  display: flex;
  gap: 2px;
}
.tool:disabled {
  opacity: 0.35;
  cursor: default;
  background: none;
}
</style>
