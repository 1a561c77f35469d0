<script setup lang="ts">
import type { Block } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldText from '@/fields/FieldText.vue'
import { ALIGNMENTS } from './alignments'
import { useContent } from './useContent'

const props = defineProps<{ block: Block }>()
const { content, set } = useContent(() => props.block, 'heading')
const sizes = [
  { value: 'small', label: 'Small' },
  { value: 'medium', label: 'Medium' },
  { value: 'large', label: 'Large' },
] as const
</script>

<template>
  <FieldText
    label="Heading"
    at="text"
    :model-value="content.text"
    :maxlength="120"
    @update:model-value="set('text', $event, 'wording')"
  />
  <FieldChoice
    label="Size"
    :model-value="content.size ?? 'medium'"
    :options="sizes"
    @update:model-value="set('size', $event)"
  />
  <FieldChoice
    label="Stands"
    :model-value="content.align ?? 'centre'"
    :options="ALIGNMENTS"
    @update:model-value="set('align', $event, 'alignment')"
  />
</template>
