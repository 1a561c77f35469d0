<script setup lang="ts">
import ToggleSwitch from 'primevue/toggleswitch'
import { useId } from 'vue'

defineProps<{ label: string; modelValue: boolean | undefined; hint?: string }>()
const emit = defineEmits<{ 'update:modelValue': [on: boolean] }>()
const id = useId()
</script>

<template>
  <div class="switch">
    <ToggleSwitch
      :input-id="id"
      :model-value="modelValue ?? false"
      @update:model-value="emit('update:modelValue', $event)"
    />
    <label :for="id"
      >{{ label }}<small v-if="hint">{{ hint }}</small></label
    >
  </div>
</template>

<style scoped>
.switch {
  display: flex;
  gap: 10px;
  align-items: center;
}
/* However much is said beside it. */
.switch :deep(.p-toggleswitch) {
  flex: none;
}
label {
  font-size: 0.93rem;
}
small {
  display: block;
  color: var(--ink-soft);
}
</style>
