<script setup lang="ts">
import { ArrowDown, ArrowUp, Trash2 } from '@lucide/vue'

/** Moves one of several items up or down, or takes it out. */
defineProps<{ name: string; at: number; count: number }>()
const emit = defineEmits<{ move: [by: number]; remove: [] }>()
</script>

<template>
  <div class="tools">
    <slot />
    <button
      class="tool"
      type="button"
      :aria-label="$t('fields.up', { name })"
      :disabled="at === 0"
      @click="emit('move', -1)"
    >
      <ArrowUp aria-hidden="true" />
    </button>
    <button
      class="tool"
      type="button"
      :aria-label="$t('fields.down', { name })"
      :disabled="at === count - 1"
      @click="emit('move', 1)"
    >
      <ArrowDown aria-hidden="true" />
    </button>
    <button class="tool" type="button" :aria-label="$t('fields.takeOut', { name })" @click="emit('remove')">
      <Trash2 aria-hidden="true" />
    </button>
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
