<script setup lang="ts">
import { computed } from 'vue'
import type { Block } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import WindowRows from '@/fields/WindowRows.vue'
import { toMoment, toWallClock } from '@/fields/zonedTime'
import { useZone } from '@/shell/useZone'
import TimesRibbon from './TimesRibbon.vue'
import WeeklyRows from '@/fields/WeeklyRows.vue'

/** The times in which something shows: windows, and what repeats every week; always when there are none. */
type Times = NonNullable<Block['when']>
const props = defineProps<{ modelValue?: Times; wrong?: string; always: string }>()
const emit = defineEmits<{ 'update:modelValue': [times: Times | undefined] }>()

const ours = useZone()
const zone = computed(() => props.modelValue?.zone ?? ours.value)
const windows = computed(() =>
  (props.modelValue?.spans ?? []).map(({ from, to }) => ({
    from: toWallClock(from, zone.value),
    to: toWallClock(to, zone.value),
  })),
)

function set(change: Partial<Times>) {
  const times = { zone: zone.value, ...props.modelValue, ...change }
  emit('update:modelValue', times.spans?.length || times.weekly?.length ? times : undefined)
}

const setWindows = (entered: { from?: string; to?: string }[]) =>
  set({
    spans: entered.map(({ from, to }) => ({
      from: toMoment(from, zone.value),
      to: toMoment(to, zone.value),
    })),
  })
</script>

<template>
  <TimesRibbon
    v-if="modelValue?.spans?.some(({ from, to }) => from || to)"
    :model-value="modelValue.spans"
    :zone="zone"
    @update:model-value="set({ spans: $event })"
  />
  <WindowRows
    :always="modelValue?.weekly?.length ? '' : always"
    :model-value="windows"
    :zone="zone"
    :wrong="wrong"
    @update:model-value="setWindows"
  />
  <WeeklyRows
    :model-value="modelValue?.weekly ?? []"
    :zone="windows.length ? undefined : zone"
    @update:model-value="set({ weekly: $event })"
  />
  <FieldChoice
    v-if="modelValue?.spans?.length && modelValue.weekly?.length"
    :label="$t('arrange.datesAndWeek')"
    :model-value="modelValue.either ? 'either' : 'both'"
    :options="[
      { value: 'both', label: $t('arrange.withinBoth') },
      { value: 'either', label: $t('arrange.withinEither') },
    ]"
    @update:model-value="set({ either: $event === 'either' || undefined })"
  />
</template>
