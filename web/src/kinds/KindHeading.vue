<script setup lang="ts">
import type { Block } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import FieldText from '@/fields/FieldText.vue'
import { t } from '@/i18n'
import { ALIGNMENTS } from './alignments'
import { useContent } from './useContent'

const props = defineProps<{ block: Block }>()
const { content, set } = useContent(() => props.block, 'heading')
const sizes = [
  { value: 'small', label: t('common.small') },
  { value: 'medium', label: t('common.medium') },
  { value: 'large', label: t('common.large') },
] as const
/** PrimeVue takes an empty value for none, so by hand has a name here. */
const orders = [
  { value: 'hand', label: t('kinds.orderByHand') },
  { value: 'newest', label: t('kinds.orderNewest') },
  { value: 'pull', label: t('kinds.orderPull') },
] as const
/** How many blocks below it show before one has to press. */
const firsts = [0, 3, 5, 10].map((value) => ({
  value,
  label: value ? t('kinds.firstFew', { n: value }) : t('kinds.firstAll'),
}))
</script>

<template>
  <FieldText
    :label="$t('kinds.heading')"
    at="text"
    :model-value="content.text"
    :maxlength="120"
    @update:model-value="set('text', $event, 'wording')"
  />
  <FieldChoice
    :label="$t('common.size')"
    :model-value="content.size ?? 'medium'"
    :options="sizes"
    @update:model-value="set('size', $event)"
  />
  <FieldChoice
    :label="$t('kinds.stands')"
    :model-value="content.align ?? 'centre'"
    :options="ALIGNMENTS"
    @update:model-value="set('align', $event, 'alignment')"
  />
  <FieldSwitch
    :label="$t('kinds.foldsAway')"
    :model-value="content.folds ?? false"
    @update:model-value="set('folds', $event || undefined)"
  />
  <FieldChoice
    :label="$t('kinds.orderUnder')"
    :model-value="content.order ?? 'hand'"
    :options="orders"
    @update:model-value="set('order', $event === 'hand' ? undefined : $event)"
  />
  <p v-if="content.order" class="soft small">
    {{ content.order === 'newest' ? $t('kinds.orderNewestSays') : $t('kinds.orderPullSays') }}
  </p>
  <FieldChoice
    :label="$t('kinds.shownFirst')"
    :model-value="content.first ?? 0"
    :options="firsts"
    @update:model-value="set('first', $event || undefined)"
  />
</template>
