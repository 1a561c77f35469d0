<script setup lang="ts">
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { computed, useId } from 'vue'
import { t } from '@/i18n'
import { COMPARISONS, OWN_RANGE, RANGES } from './ranges'

/** The time that is read, and what it is compared with. */
const range = defineModel<string>('range', { required: true })
const compare = defineModel<string>('compare', { required: true })
/** The days that are shown: what an own range begins as; and whether it is compared with nothing. */
const props = defineProps<{ from?: string; to?: string; alone?: boolean }>()
const id = useId()

const isOwn = computed(() => range.value.includes('..'))
const chosen = computed({
  get: () => (isOwn.value ? OWN_RANGE : range.value),
  set: (value) => (range.value = value === OWN_RANGE ? `${props.from}..${props.to}` : value),
})
const own = computed(() => range.value.split('..'))
const choices = [...RANGES, { value: OWN_RANGE, label: t('readings.ownRange') }]

function setDay(which: 0 | 1, event: Event) {
  const day = (event.target as HTMLInputElement).value
  if (!day) return
  const days = [...own.value]
  days[which] = day
  // Whoever chooses a beginning after the end means the day alone.
  if (days[0]! > days[1]!) days[which === 0 ? 1 : 0] = day
  range.value = days.join('..')
}
</script>

<template>
  <div class="ranges">
    <Select
      v-model="chosen"
      :options="choices"
      option-value="value"
      option-label="label"
      size="small"
      :aria-label="$t('readings.range')"
    />
    <template v-if="isOwn">
      <label class="visually-hidden" :for="`${id}-from`">{{ $t('readings.firstDay') }}</label>
      <InputText
        :id="`${id}-from`"
        type="date"
        size="small"
        :model-value="own[0]"
        @change="setDay(0, $event)"
      />
      <label class="visually-hidden" :for="`${id}-to`">{{ $t('readings.lastDay') }}</label>
      <InputText
        :id="`${id}-to`"
        type="date"
        size="small"
        :model-value="own[1]"
        @change="setDay(1, $event)"
      />
    </template>
    <Select
      v-if="range !== 'all' && !alone"
      v-model="compare"
      :options="COMPARISONS"
      option-value="value"
      option-label="label"
      size="small"
      :aria-label="$t('readings.comparedWith')"
    />
  </div>
</template>

<style scoped>
.ranges {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
</style>
