<script setup lang="ts">
import type { Block } from '@/api/client'
import FieldRange from '@/fields/FieldRange.vue'
import { useContent } from './useContent'

const props = defineProps<{ block: Block }>()
const { content, set } = useContent(() => props.block, 'space')
</script>

<template>
  <FieldRange
    :label="$t('kinds.height')"
    :model-value="content.height"
    :min="8"
    :max="160"
    :unit="$t('kinds.px')"
    @update:model-value="set('height', $event)"
  />
</template>
