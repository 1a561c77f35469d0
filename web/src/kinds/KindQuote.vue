<script setup lang="ts">
import type { Block } from '@/api/client'
import FieldText from '@/fields/FieldText.vue'
import FieldPicture from '@/pictures/FieldPicture.vue'
import { useContent } from './useContent'

const props = defineProps<{ block: Block }>()
const { content, set } = useContent(() => props.block, 'quote')
</script>

<template>
  <FieldText
    :label="$t('kinds.words')"
    at="words"
    :model-value="content.words"
    :maxlength="500"
    :lines="3"
    @update:model-value="set('words', $event)"
  />
  <FieldText
    :label="$t('kinds.whoSaidIt')"
    at="who"
    :model-value="content.who"
    :maxlength="120"
    @update:model-value="set('who', $event, 'speaker')"
  />
  <FieldPicture
    :label="$t('common.picture')"
    :model-value="content.picture"
    use="small"
    :aspect="1"
    round
    :alt="$t('kinds.pictureBesideTheQuote')"
    @update:model-value="set('picture', $event)"
  />
</template>
