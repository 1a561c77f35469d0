<script setup lang="ts">
import type { Block } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import { t } from '@/i18n'
import { useContent } from './useContent'

const props = defineProps<{ block: Block }>()
const { content, set } = useContent(() => props.block, 'divider')
const lines = [
  { value: 'plain', label: t('kinds.plain') },
  { value: 'dotted', label: t('kinds.dotted') },
  { value: 'wave', label: t('kinds.wave') },
  { value: 'short', label: t('kinds.short') },
] as const
</script>

<template>
  <FieldChoice
    :label="$t('kinds.line')"
    :model-value="content.line ?? 'plain'"
    :options="lines"
    @update:model-value="set('line', $event)"
  />
</template>
