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
    <label :for="id"
      >{{ label }} <output class="value">{{ modelValue }}{{ unit }}</output></label
    >
    <input :id="id" type="range" :min="min" :max="max" :value="modelValue" @input="moved" />
  </div>
</template>

<style scoped>
.value {
  float: right;
  font-weight: 400;
  color: var(--ink-soft);
}
input {
  width: 100%;
  accent-color: var(--accent);
  margin: 0;
}
</style>
