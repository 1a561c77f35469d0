<script setup lang="ts">
import { ArrowDown, ArrowUp, Trash2 } from '@lucide/vue'
import ToolButton from './ToolButton.vue'

/** Moves one of several items up or down, or takes it out. */
defineProps<{ name: string; at: number; count: number }>()
const emit = defineEmits<{ move: [by: number]; remove: [] }>()
</script>

<template>
  <div class="tools">
    <slot />
    <ToolButton
      :icon="ArrowUp"
      :label="$t('fields.up', { name })"
      :disabled="at === 0"
      @click="emit('move', -1)"
    />
    <ToolButton
      :icon="ArrowDown"
      :label="$t('fields.down', { name })"
      :disabled="at === count - 1"
      @click="emit('move', 1)"
    />
    <ToolButton :icon="Trash2" :label="$t('fields.takeOut', { name })" @click="emit('remove')" />
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  align-items: center;
  justify-content: flex-end;
  gap: 2px;
}
.tool:disabled {
  opacity: 0.35;
}
</style>
