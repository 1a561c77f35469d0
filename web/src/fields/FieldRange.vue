<script setup lang="ts">
import { useId } from 'vue'

const props = defineProps<{
  label: string
  modelValue: number | undefined
  min: number
  max: number
  unit?: string
}>()
const emit = defineEmits<{ 'update:modelValue': [value: number] }>()
const id = useId()

function moved(event: Event) {
  const value = Number((event.target as HTMLInputElement).value)
  if (value >= props.min && value <= props.max) emit('update:modelValue', value)
}
</script>

<template>
  <div class="field">
    <div class="line">
      <label :for="id">{{ label }}</label><output class="value" :for="id">{{ modelValue }}{{ unit }}</output>
    </div>
    <input :id="id" type="range" :min="min" :max="max" :value="modelValue" @input="moved" />
  </div>
</template>

<style scoped>
.line {
  display: flex;
  justify-content: space-between;
}
.value {
  font-size: 0.9rem;
  color: var(--ink-soft);
}
input {
  width: 100%;
  accent-color: var(--accent);
  margin: 0;
}
</style>
