<script setup lang="ts">
import { LineChart } from 'echarts/charts'
import { GridComponent, LegendComponent, MarkAreaComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { computed } from 'vue'
import VChart from 'vue-echarts'
import type { ReadingsView } from '@/api/client'
import { counted } from '@/figures'
import { formatsOf, t } from '@/i18n'
import { sourceColour, type Lane } from '@/sourceColours'
import { useSession } from '@/session'
import { useTheme } from '@/theme/useTheme'
import { timeSeries, type Split } from './timeSeries'

use([LineChart, GridComponent, LegendComponent, MarkAreaComponent, TooltipComponent, CanvasRenderer])

const props = defineProps<{ view: ReadingsView; lanes: Lane[]; split: Split }>()
const theme = useTheme()

const lines = computed(() => timeSeries(props.view, props.lanes, props.split))
const option = computed(() => {
  const dark = document.documentElement.classList.contains('dark') || theme.value === 'dark'
  const ink = dark ? '#b8ae9a' : '#5d5546'
  const series = lines.value
  return {
    animation: false,
    textStyle: { fontFamily: 'Spline Sans Variable, sans-serif' },
    grid: { left: 44, right: 16, top: series.length > 1 ? 40 : 14, bottom: 28 },
    tooltip: {
      trigger: 'axis',
      confine: true,
      backgroundColor: dark ? '#211e19' : '#fffdf8',
      borderColor: ink,
      textStyle: { color: dark ? '#efe9dc' : '#1b1a17' },
    },
    legend: {
      show: series.length > 1,
      top: 0,
      left: 36,
      type: 'scroll',
      icon: 'roundRect',
      itemHeight: 4,
      textStyle: { color: ink },
    },
    xAxis: {
      type: 'category',
      data: props.view.days.map((day) => day.date),
      boundaryGap: false,
      axisLine: { lineStyle: { color: ink } },
      axisTick: { show: false },
      axisLabel: { color: ink, hideOverlap: true, formatter: shortDate },
    },
    yAxis: {
      type: 'value',
      minInterval: 1,
      splitLine: { lineStyle: { color: dark ? '#38332a' : '#e7e0d1' } },
      axisLabel: { color: ink },
    },
    series: series.flatMap((line, i) =>
      parts(line.values).map((data, part) => ({
        type: 'line',
        name: line.name,
        data,
        showSymbol: props.view.days.length < 2,
        symbolSize: 6,
        lineStyle: { width: series.length > 1 ? 2 : 2.5, type: part === 0 ? 'solid' : [2, 5] },
        tooltip: { show: part === 0 },
        color: line.colour ?? (props.split === 'none' ? (dark ? '#6fadb7' : '#0b5d6c') : sourceColour(i)),
        markArea: i === 0 && part === 0 ? marks(dark) : undefined,
        areaStyle: props.split === 'none' && part === 0 ? { opacity: 0.12 } : undefined,
      })),
    ),
  }
})

/** The days on which something took the place of the page. */
function marks(dark: boolean) {
  const { days, took } = props.view
  const [first, last] = [days[0]?.date ?? '', days.at(-1)?.date ?? '']
  const within = (date: string) => (date < first ? first : date > last ? last : date)
  return {
    silent: true,
    itemStyle: { color: dark ? '#c8892b' : '#b3631a', opacity: 0.14 },
    data: took.map(({ from, until }) => [
      { xAxis: within(today.format(new Date(from))) },
      { xAxis: within(until ? today.format(new Date(until)) : last) },
    ]),
  }
}

const today = new Intl.DateTimeFormat('en-CA', { timeZone: useSession().me?.zone })

const unfinished = computed(
  () => props.view.days.length > 1 && props.view.days.at(-1)?.date === today.format(new Date()),
)

/** The finished days, and the way to today, which is not over: it must not look as if all had fallen. */
function parts(values: number[]) {
  const last = values.length - 1
  if (!unfinished.value) return [values]
  return [values.slice(0, last), values.map((value, day) => (day < last - 1 ? null : value))]
}

const dayAndMonth = new Intl.DateTimeFormat(formatsOf(), { day: 'numeric', month: 'short', timeZone: 'UTC' })
function shortDate(date: string) {
  return dayAndMonth.format(new Date(`${date}T00:00:00Z`))
}

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
  <div class="chart" role="img" :aria-label="summary">
    <VChart :option="option" :update-options="{ notMerge: true }" autoresize />
  </div>
  <details class="behind">
    <summary>{{ $t('readings.asTable') }}</summary>
    <div class="scroller" tabindex="0" role="region" :aria-label="$t('readings.figuresByDay')">
      <table>
        <thead>
          <tr>
            <th scope="col">{{ $t('readings.day') }}</th>
            <th v-for="line in lines" :key="line.name" scope="col">{{ line.name }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(day, i) in view.days" :key="day.date">
            <th scope="row">{{ day.date }}</th>
            <td v-for="line in lines" :key="line.name">{{ line.values[i] }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </details>
  <p v-if="unfinished" class="soft small">{{ $t('readings.theDottedPartLeads') }}</p>
</template>

<style scoped>
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
.chart {
  height: 280px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--surface);
  padding: 10px 6px;
}
</style>
