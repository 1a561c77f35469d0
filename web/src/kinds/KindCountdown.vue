<script setup lang="ts">
import type { Block } from '@/api/client'
import FieldMoment from '@/fields/FieldMoment.vue'
import FieldText from '@/fields/FieldText.vue'
import { useZone } from '@/shell/useZone'
import { useContent } from './useContent'

/** How long it is until a moment. */
const props = defineProps<{ block: Block }>()
const { content, set, change } = useContent(() => props.block, 'countdown')
const zone = useZone()

function setUntil(moment: string | undefined) {
  if (moment)
    change('until', (countdown) => Object.assign(countdown, { until: moment, zone: zone.value }), 'until')
}
</script>

<template>
  <FieldText
    :label="$t('kinds.whatBegins')"
    at="title"
    :model-value="content.title"
    :maxlength="120"
    @update:model-value="set('title', $event)"
  />
  <FieldMoment
    :label="$t('kinds.when')"
    at="until"
    :model-value="content.until"
    :zone="zone"
    :hint="$t('fields.byTheClocksOf', { zone: zone.replaceAll('_', ' ') })"
    @update:model-value="setUntil"
  />
  <FieldText
    :label="$t('kinds.saidFromThenOn')"
    at="after"
    :model-value="content.after"
    :maxlength="120"
    :hint="$t('kinds.hideItByItsTimes')"
    @update:model-value="set('after', $event)"
  />
</template>
