<script setup lang="ts">
import type { Block } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import { useContent } from './useContent'

const props = defineProps<{ block: Block }>()
const { content, set } = useContent(() => props.block, 'divider')
const lines = [
  { value: 'plain', label: 'Plain' },
  { value: 'dotted', label: 'Dotted' },
  { value: 'wave', label: 'Wave' },
  { value: 'short', label: 'Short' },
] as const
</script>

<template>
  <FieldChoice
    label="Line"
    :model-value="content.line ?? 'plain'"
    :options="lines"
    @update:model-value="set('line', $event)"
  />
</template>
