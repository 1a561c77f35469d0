<script setup lang="ts">
import { Redo2, Undo2 } from '@lucide/vue'
import { usePageStore } from '@/page/pageStore'

const page = usePageStore()
</script>

<template>
  <div class="history">
    <button
      v-tooltip.bottom="
        page.undoable ? $t('shell.undoStep', { step: page.undoable }) : $t('shell.nothingToUndo')
      "
      class="tool"
      type="button"
      :aria-label="$t('shell.undo')"
      :disabled="!page.undoable"
      @click="page.undo"
    >
      <Undo2 aria-hidden="true" />
    </button>
    <button
      v-tooltip.bottom="
        page.redoable ? $t('shell.redoStep', { step: page.redoable }) : $t('shell.nothingToRedo')
      "
      class="tool"
      type="button"
      :aria-label="$t('shell.redo')"
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
