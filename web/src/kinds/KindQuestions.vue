<script setup lang="ts">
import Button from 'primevue/button'
import type { Block } from '@/api/client'
import FieldText from '@/fields/FieldText.vue'
import ItemTools from '@/fields/ItemTools.vue'
import { moveItem } from '@/fields/reorder'
import { t } from '@/i18n'
import { useContent } from './useContent'

/** Questions whose answers fold out. */
const props = defineProps<{ block: Block }>()
const { content, set, change } = useContent(() => props.block, 'questions')
const MOST = 30

function setItem(at: number, field: 'asked' | 'answer', text: string) {
  change(t('kinds.changeAQuestion'), ({ items }) => items[at] && (items[at][field] = text), `${at}/${field}`)
}
</script>

<template>
  <FieldText
    :label="$t('common.title')"
    at="title"
    :model-value="content.title"
    :maxlength="120"
    @update:model-value="set('title', $event)"
  />
  <ol class="block-items">
    <li v-for="(item, at) in content.items" :key="at">
      <FieldText
        :label="$t('kinds.questionNumber', { n: at + 1 })"
        :at="`items/${at}/asked`"
        :model-value="item.asked"
        :maxlength="200"
        @update:model-value="setItem(at, 'asked', $event)"
      />
      <FieldText
        :label="$t('kinds.answer')"
        :at="`items/${at}/answer`"
        :model-value="item.answer"
        :maxlength="1500"
        :lines="3"
        @update:model-value="setItem(at, 'answer', $event)"
      />
      <ItemTools
        :name="$t('kinds.questionNumber', { n: at + 1 })"
        :at="at"
        :count="content.items.length"
        @move="change($t('kinds.moveAQuestion'), ({ items }) => moveItem(items, at, $event))"
        @remove="change($t('kinds.takeAQuestionOut'), ({ items }) => items.splice(at, 1))"
      />
    </li>
  </ol>
  <Button
    size="small"
    severity="secondary"
    :label="$t('kinds.addAQuestion')"
    :disabled="content.items.length >= MOST"
    @click="change($t('kinds.addAQuestion'), ({ items }) => items.push({ asked: '', answer: '' }))"
  />
</template>
