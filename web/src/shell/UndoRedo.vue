<script setup lang="ts">
import { Redo2, Undo2 } from '@lucide/vue'
import { useEventListener } from '@vueuse/core'
import ToolButton from '@/fields/ToolButton.vue'
import { usePageStore } from '@/page/pageStore'
import { isUndo } from './undoKeys'

const page = usePageStore()

// By keys anywhere but where text is typed, which has an undo of its own.
useEventListener('keydown', (event: KeyboardEvent) => {
  if (!isUndo(event)) return
  event.preventDefault()
  if (event.shiftKey) void page.redo()
  else void page.undo()
})
</script>

<template>
  <div class="history" :aria-busy="page.stepping">
    <ToolButton
      v-tooltip.bottom="
        page.undoable ? $t('shell.undoStep', { step: page.undoable }) : $t('shell.nothingToUndo')
      "
      :icon="Undo2"
      :label="$t('shell.undo')"
      :disabled="!page.undoable"
      @click="page.undo"
    />
    <ToolButton
      v-tooltip.bottom="
        page.redoable ? $t('shell.redoStep', { step: page.redoable }) : $t('shell.nothingToRedo')
      "
      :icon="Redo2"
      :label="$t('shell.redo')"
      :disabled="!page.redoable"
      @click="page.redo"
    />
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
