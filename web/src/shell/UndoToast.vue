<script setup lang="ts">
import Button from 'primevue/button'
import Toast from 'primevue/toast'
import { useToast } from 'primevue/usetoast'
import type { UndoMessage } from './useUndo'

/** Messages of what has changed on the live page, each with a button that undoes it. */
const toast = useToast()

async function undo(message: UndoMessage) {
  toast.remove(message)
  try {
    await message.undo()
  } catch (error) {
    toast.add({ severity: 'error', summary: (error as Error).message, life: 10_000 })
  }
}
</script>

<template>
  <Toast group="undo" position="bottom-center">
    <template #message="{ message }">
      <div class="undo">
        <span>{{ message.summary }}</span>
        <Button
          size="small"
          severity="secondary"
          :label="$t('shell.undo')"
          @click="undo(message as UndoMessage)"
        />
      </div>
    </template>
  </Toast>
</template>

<style scoped>
.undo {
  display: flex;
  flex: 1;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
}
.undo button {
  flex-shrink: 0;
  white-space: nowrap;
}
</style>
