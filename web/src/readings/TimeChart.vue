<script setup lang="ts">
import { BarChart, LineChart } from 'echarts/charts'
import {
  GridComponent,
  LegendComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
} from 'echarts/components'
import { use } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { computed, ref } from 'vue'
import VChart from 'vue-echarts'
import { count } from '@/figures'
import { formatsOf, t } from '@/i18n'
import { sourceColour } from '@/sourceColours'
import { useTheme } from '@/theme/useTheme'
import { sevenDayMean, type Series } from './timeSeries'

use([
  BarChart,
  LineChart,
  GridComponent,
  LegendComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
  CanvasRenderer,
])

export interface TimeMark {
  /** A point of the chart. */
  at: string
  /** What stands above its line, as short as it can be. */
  label: string
  /** What happened, as a sentence. */
  says: string
  dashed?: boolean
}

/** Lines or bars over time, with what happened then. It is read by hover, by arrow keys, and as a table. */
const props = defineProps<{
  points: string[]
  series: Series[]
  label: string
  /** Bars on top of each other, which add up, in place of lines. */
  stacked?: boolean
  /** A line for the mean of seven days, where there is one line of days. */
  mean?: boolean
  /** The last point is not over yet. */
  unfinished?: boolean
  marks?: TimeMark[]
  /** Times that stand apart, from a point to a point. */
  areas?: [string, string][]
}>()
const theme = useTheme()
const dark = computed(() => theme.value === 'dark' || document.documentElement.classList.contains('dark'))
const ink = computed(() => (dark.value ? '#b8ae9a' : '#5d5546'))

const dayAndMonth = new Intl.DateTimeFormat(formatsOf(), { day: 'numeric', month: 'short', timeZone: 'UTC' })
const weekdayToo = new Intl.DateTimeFormat(formatsOf(), {
  weekday: 'short',
  day: 'numeric',
  month: 'short',
  timeZone: 'UTC',
})
/** A point in words: a day, or an hour of one. */
function words(point: string, long = false) {
  const [date, hour] = point.split(' ')
  const day = (long ? weekdayToo : dayAndMonth).format(new Date(`${date}T00:00:00Z`))
  return hour === undefined ? day : long ? `${day}, ${hour}:00` : `${hour}:00`
}

const colourOf = (line: Series, i: number) =>
  line.colour ?? (props.series.length > 1 ? sourceColour(i) : dark.value ? '#6fadb7' : '#0b5d6c')

/** The finished points, and the way to the last, which is not over: it must not look as if all had fallen. */
function parts(values: number[]) {
  const last = values.length - 1
  if (!props.unfinished || last < 1) return [values]
  return [values.slice(0, last), values.map((value, i) => (i < last - 1 ? null : value))]
}

const lines = computed(() =>
  props.series.flatMap((line, i) =>
    parts(line.values).map((data, part) => ({
      type: 'line',
      name: line.name,
      data,
      showSymbol: props.points.length < 2,
      symbolSize: 6,
      lineStyle: { width: props.series.length > 1 ? 2 : 2.5, type: part === 0 ? 'solid' : [2, 5] },
      tooltip: { show: part === 0 },
      color: colourOf(line, i),
      areaStyle: props.series.length === 1 && part === 0 ? { opacity: 0.12 } : undefined,
      ...(i === 0 && part === 0 ? happened.value : {}),
    })),
  ),
)
const bars = computed(() =>
  props.series.map((line, i) => ({
    type: 'bar',
    name: line.name,
    stack: 'all',
    barCategoryGap: '25%',
    color: colourOf(line, i),
    data: line.values.map((value, at) => ({
      value,
      itemStyle: props.unfinished && at === line.values.length - 1 ? { opacity: 0.45 } : {},
    })),
    ...(i === 0 ? happened.value : {}),
  })),
)
const meanLine = computed(() => {
  const [only] = props.series
  if (!props.mean || props.series.length !== 1 || !only) return []
  const values = props.unfinished ? only.values.slice(0, -1) : only.values
  return [
    {
      type: 'line',
      name: t('readings.sevenDayMean'),
      data: sevenDayMean(values),
      showSymbol: false,
      smooth: true,
      color: dark.value ? '#e0a04a' : '#96500f',
      lineStyle: { width: 2 },
    },
  ]
})
/** What happened, drawn behind the first line. */
const happened = computed(() => ({
  markArea: {
    silent: true,
    itemStyle: { color: dark.value ? '#c8892b' : '#b3631a', opacity: 0.14 },
    data: (props.areas ?? []).map(([from, to]) => [{ xAxis: from }, { xAxis: to }]),
  },
  markLine: {
    silent: true,
    symbol: 'none',
    lineStyle: { color: ink.value, width: 1, opacity: 0.7 },
    label: { color: ink.value, fontSize: 10, show: (props.marks ?? []).length <= 16, distance: 2 },
    data: (props.marks ?? []).map(({ at, label, dashed }) => ({
      xAxis: at,
      lineStyle: { type: dashed ? 'dashed' : 'solid' },
      label: { formatter: label },
    })),
  },
}))

const option = computed(() => {
  const all = [...(props.stacked ? bars.value : lines.value), ...meanLine.value]
  return {
    animation: false,
    textStyle: { fontFamily: 'Spline Sans Variable, sans-serif' },
    grid: { left: 44, right: 16, top: all.length > 1 && legend.value.length > 1 ? 52 : 24, bottom: 28 },
    tooltip: {
      trigger: 'axis',
      confine: true,
      backgroundColor: dark.value ? '#211e19' : '#fffdf8',
      borderColor: ink.value,
      textStyle: { color: dark.value ? '#efe9dc' : '#1b1a17' },
      formatter: (hovered: { dataIndex: number }[]) => tip(hovered[0]?.dataIndex ?? 0),
    },
    legend: {
      show: legend.value.length > 1,
      data: legend.value,
      top: 0,
      left: 36,
      type: 'scroll',
      icon: 'roundRect',
      itemHeight: 4,
      textStyle: { color: ink.value },
    },
    xAxis: {
      type: 'category',
      data: props.points,
      boundaryGap: props.stacked,
      axisLine: { lineStyle: { color: ink.value } },
      axisTick: { show: false },
      axisLabel: { color: ink.value, hideOverlap: true, formatter: (point: string) => words(point) },
    },
    yAxis: {
      type: 'value',
      minInterval: 1,
      splitLine: { lineStyle: { color: dark.value ? '#38332a' : '#e7e0d1' } },
      axisLabel: { color: ink.value },
    },
    series: all,
  }
})
const legend = computed(() => [
  ...new Set([...props.series.map(({ name }) => name), ...meanLine.value.map(({ name }) => name)]),
])

/** What a point says: its figures, and what happened then. */
function said(at: number): string[] {
  const point = props.points[at]
  if (point === undefined) return []
  return [
    words(point, true),
    ...props.series.map(({ name, values }) => `${name}: ${count(values[at] ?? 0)}`),
    ...(props.marks ?? []).filter((mark) => mark.at === point).map(({ says }) => says),
  ]
}
/** Names are a creator's: they are text in the tooltip and never marks of HTML. */
function tip(at: number) {
  const box = document.createElement('div')
  said(at).forEach((line, i) => {
    const row = document.createElement(i === 0 ? 'strong' : 'div')
    row.textContent = line
    row.style.whiteSpace = 'normal'
    box.append(row)
  })
  return box
}

const chart = ref<InstanceType<typeof VChart>>()
const spoken = ref('')
const focused = ref(0)
function onKey(event: KeyboardEvent) {
  const step = { ArrowLeft: -1, ArrowRight: 1, PageUp: -7, PageDown: 7, Home: -Infinity, End: Infinity }[
    event.key
  ]
  if (step === undefined) return
  event.preventDefault()
  focused.value = Math.max(0, Math.min(props.points.length - 1, focused.value + step))
  spoken.value = said(focused.value).join('. ')
  chart.value?.dispatchAction({ type: 'showTip', seriesIndex: 0, dataIndex: focused.value })
}
</script>

<template>
  <div
    class="chart"
    role="application"
    tabindex="0"
    :aria-label="`${label} ${$t('readings.arrowsReadPoints')}`"
    @keydown="onKey"
  >
    <VChart ref="chart" :option="option" :update-options="{ notMerge: true }" autoresize />
  </div>
  <p class="visually-hidden" aria-live="polite">{{ spoken }}</p>
  <details class="behind">
    <summary>{{ $t('readings.asTable') }}</summary>
    <div class="scroller" tabindex="0" role="region" :aria-label="label">
      <table>
        <thead>
          <tr>
            <th scope="col">{{ $t('readings.day') }}</th>
            <th v-for="line in series" :key="line.name" scope="col">{{ line.name }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(point, i) in points" :key="point">
            <th scope="row">{{ point.includes(' ') ? `${point}:00` : point }}</th>
            <td v-for="line in series" :key="line.name">{{ line.values[i] }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </details>
</template>

<style scoped>
.chart {
  height: 300px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--surface);
  padding: 10px 6px;
}
.behind {
  margin-top: 6px;
}
.behind summary {
  cursor: pointer;
  font-size: 0.87rem;
}
.scroller {
  max-height: 20rem;
  overflow: auto;
  border: 1px solid var(--line);
}
table {
  border-collapse: collapse;
  font-size: 0.87rem;
}
th,
td {
  padding: 3px 12px;
  text-align: right;
  white-space: nowrap;
}
thead th {
  position: sticky;
  top: 0;
  background: var(--surface);
}
</style>
