<script setup lang="ts">
import type { Block } from '@/api/client'
import FieldText from '@/fields/FieldText.vue'
import { leadTo } from '@/page/leadTo'
import FieldAddress from './FieldAddress.vue'
import { useContent } from './useContent'

/** A discount code to copy, and where it is good. */
const props = defineProps<{ block: Block }>()
const { content, set, change } = useContent(() => props.block, 'code')
</script>

<template>
  <FieldText
    :label="$t('common.title')"
    at="title"
    :model-value="content.title"
    :maxlength="120"
    @update:model-value="set('title', $event)"
  />
  <FieldText
    :label="$t('kinds.theCode')"
    at="letters"
    :model-value="content.letters"
    :maxlength="40"
    @update:model-value="set('letters', $event)"
  />
  <FieldText
    :label="$t('common.text')"
    at="text"
    :model-value="content.text"
    :maxlength="300"
    :lines="2"
    @update:model-value="set('text', $event)"
  />
  <FieldAddress
    :label="$t('kinds.whereItIsGood')"
    at="address"
    :model-value="content.address"
    :still="$t('kinds.theCodeStillLeads')"
    @update:model-value="change($t('kinds.changeTheAddress'), (lead) => leadTo(lead, $event), 'address')"
  />
  <FieldText
    :label="$t('kinds.onTheButton')"
    at="label"
    :model-value="content.label"
    :maxlength="40"
    @update:model-value="set('label', $event)"
  />
</template>
