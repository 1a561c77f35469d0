<script setup lang="ts">
import { defineAsyncComponent } from 'vue'
import type { Block } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import { ALIGNMENTS } from './alignments'
import { useContent } from './useContent'

const FormattedText = defineAsyncComponent(() => import('./FormattedText.vue'))
const props = defineProps<{ block: Block }>()
const { content, set } = useContent(() => props.block, 'text')
</script>

<template>
  <FormattedText
    :label="$t('common.text')"
    :model-value="content.html"
    @update:model-value="set('html', $event, 'text')"
  />
  <FieldChoice
    :label="$t('kinds.stands')"
    :model-value="content.align ?? 'left'"
    :options="ALIGNMENTS"
    @update:model-value="set('align', $event, 'alignment')"
  />
</template>
