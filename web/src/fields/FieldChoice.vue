<script setup lang="ts" generic="T extends string | number">
import { useId } from 'vue'

/** One of a few: a row of segments, worked like radio buttons. */
defineProps<{
  label: string
  modelValue: T | undefined
  options: readonly { value: T; label: string }[]
}>()
const emit = defineEmits<{ 'update:modelValue': [value: T] }>()
const name = useId()
</script>

<template>
  <fieldset class="choice">
    <legend>{{ label }}</legend>
    <div class="segments">
      <label v-for="option in options" :key="option.value" :class="{ on: option.value === modelValue }">
        <input
          type="radio"
          :name="name"
          :value="option.value"
          :checked="option.value === modelValue"
          @change="emit('update:modelValue', option.value)"
        />
        <span>{{ option.label }}</span>
      </label>
    </div>
  </fieldset>
</template>

<style scoped>
.choice {
  border: 0;
  padding: 0;
  margin: 0;
  min-width: 0;
}
legend {
  font-weight: 600;
  font-size: 0.9rem;
  padding: 0;
  margin-bottom: 5px;
}
.segments {
  display: flex;
  flex-wrap: wrap;
  gap: 1px;
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  background: var(--line);
  overflow: hidden;
}
label {
  flex: 1 0 auto;
  position: relative;
  text-align: center;
  padding: 5px 10px;
  background: var(--surface);
  font-size: 0.87rem;
  cursor: pointer;
  white-space: nowrap;
}
label.on {
  background: var(--accent);
  color: var(--surface);
  font-weight: 600;
}
input {
  position: absolute;
  inset: 0;
  opacity: 0;
  margin: 0;
  cursor: pointer;
}
label:has(:focus-visible) {
  outline: 2px solid var(--accent);
  outline-offset: -4px;
}
label.on:has(:focus-visible) {
  outline-color: var(--surface);
}
</style>
