<script setup lang="ts">
import FieldText from '@/fields/FieldText.vue'
import { readable } from './readable'

/** Where something leads. It is read as a pasted address is; while it is none, the one before it holds. */
defineProps<{ label: string; modelValue: string | undefined; at: string; still: string }>()
const emit = defineEmits<{ 'update:modelValue': [address: string] }>()
</script>

<template>
  <FieldText
    :label="label"
    :model-value="readable(modelValue)"
    inputmode="url"
    :at="at"
    :still="still"
    @update:model-value="emit('update:modelValue', $event)"
  />
</template>
