<script setup lang="ts">
import { computed } from 'vue'
import type { ReadingsView } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import { counted } from '@/figures'
import { t } from '@/i18n'
import { useSession } from '@/session'
import { useInAddress } from '@/shell/useInAddress'
import type { Lane } from '@/sourceColours'
import TimeChart from './TimeChart.vue'
import { pointOf, timeMarks } from './timeMarks'
import { timeline, unitOf, type Split, type Unit } from './timeSeries'

/** Visits or clicks over time, by hour, day or week, with what happened to the page. */
const props = defineProps<{ view: ReadingsView; lanes: Lane[]; split: Split }>()
const zone = useSession().me?.zone ?? 'UTC'

const chosenUnit = useInAddress('unit', '')
const units = computed(() => {
  const all: { value: Unit; label: string }[] = [
    { value: 'hour', label: t('readings.byHour') },
    { value: 'day', label: t('readings.byDay') },
    { value: 'week', label: t('readings.byWeek') },
  ]
  return all.filter(
    ({ value }) =>
      value === 'day' ||
      (value === 'hour' && props.view.hours.length > 0) ||
      (value === 'week' && props.view.days.length >= 14),
  )
})
const unit = computed({
  get: () => units.value.find(({ value }) => value === chosenUnit.value)?.value ?? unitOf(props.view),
  set: (value) => (chosenUnit.value = value === unitOf(props.view) ? '' : value),
})
const chosenDrawn = useInAddress('drawn', 'lines')
const DRAWN = [
  { value: 'lines', label: t('readings.asLines') },
  { value: 'stacked', label: t('readings.asStack') },
]
const drawn = computed({
  get: () => (chosenDrawn.value === 'stacked' ? 'stacked' : 'lines'),
  set: (value) => (chosenDrawn.value = value),
})

const UNFINISHED = {
  hour: t('readings.unfinishedHour'),
  day: t('readings.unfinishedDay'),
  week: t('readings.unfinishedWeek'),
}
const line = computed(() => timeline(props.view, props.lanes, props.split, unit.value))
const now = computed(() => pointOf(new Date().toISOString(), unit.value, zone))
const unfinished = computed(() => line.value.points.length > 1 && line.value.points.at(-1) === now.value)

const areas = computed(() => {
  const [first, last] = [line.value.points[0] ?? '', line.value.points.at(-1) ?? '']
  const within = (point: string) => (point < first ? first : point > last ? last : point)
  return props.view.took.map(({ from, until }): [string, string] => [
    within(pointOf(from, unit.value, zone)),
    until ? within(pointOf(until, unit.value, zone)) : last,
  ])
})

const summary = computed(() => {
  const visits = props.view.days.map((day) => day.visits)
  const highest = Math.max(...visits)
  const on = props.view.days[visits.indexOf(highest)]?.date
  return t('readings.lineChartOf', {
    days: counted(props.view.days.length, 'day'),
    visits: counted(highest, 'visit'),
    on,
  })
})
</script>

<template>
  <div class="switches">
    <FieldChoice v-if="units.length > 1" v-model="unit" :label="$t('readings.timeUnit')" :options="units" />
    <FieldChoice v-if="split !== 'none'" v-model="drawn" :label="$t('readings.drawnAs')" :options="DRAWN" />
  </div>
  <TimeChart
    :points="line.points"
    :series="line.series"
    :label="summary"
    :stacked="drawn === 'stacked' && line.series.length > 1"
    :mean="unit === 'day'"
    :unfinished="unfinished"
    :marks="timeMarks(view, unit, zone)"
    :areas="areas"
  />
  <p class="soft small">
    <template v-if="unfinished">{{ UNFINISHED[unit] }}</template>
    {{ view.editions.length + view.windows.length ? $t('readings.marksOnTime') : '' }}
  </p>
</template>

<style scoped>
.switches {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 20px;
  margin-bottom: 10px;
}
</style>
