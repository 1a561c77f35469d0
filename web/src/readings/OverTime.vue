<script setup lang="ts">
import { LineChart } from 'echarts/charts'
import { GridComponent, LegendComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { computed } from 'vue'
import VChart from 'vue-echarts'
import type { ReadingsView } from '@/api/client'
import { sourceColour, type Lane } from '@/sourceColours'
import { useTheme } from '@/theme/useTheme'
import { timeSeries, type Split } from './timeSeries'

use([LineChart, GridComponent, LegendComponent, TooltipComponent, CanvasRenderer])

const props = defineProps<{ view: ReadingsView; lanes: Lane[]; split: Split }>()
const theme = useTheme()

const option = computed(() => {
  const dark = document.documentElement.classList.contains('dark') || theme.value === 'dark'
  const ink = dark ? '#b8ae9a' : '#5d5546'
  const series = timeSeries(props.view, props.lanes, props.split)
  return {
    animation: false,
    textStyle: { fontFamily: 'Spline Sans Variable, sans-serif' },
    grid: { left: 44, right: 16, top: series.length > 1 ? 40 : 14, bottom: 28 },
    tooltip: { trigger: 'axis', confine: true, backgroundColor: dark ? '#211e19' : '#fffdf8', borderColor: ink, textStyle: { color: dark ? '#efe9dc' : '#1b1a17' } },
    legend: { show: series.length > 1, top: 0, left: 36, type: 'scroll', icon: 'roundRect', itemHeight: 4, textStyle: { color: ink } },
    xAxis: { type: 'category', data: props.view.days.map((day) => day.date), boundaryGap: false, axisLine: { lineStyle: { color: ink } }, axisTick: { show: false }, axisLabel: { color: ink, hideOverlap: true, formatter: shortDate } },
    yAxis: { type: 'value', minInterval: 1, splitLine: { lineStyle: { color: dark ? '#38332a' : '#e7e0d1' } }, axisLabel: { color: ink } },
    series: series.map((line, i) => ({
      type: 'line', name: line.name, data: line.values, showSymbol: props.view.days.length < 2, symbolSize: 6, lineStyle: { width: series.length > 1 ? 2 : 2.5 },
      color: line.colour ?? (props.split === 'none' ? (dark ? '#6fadb7' : '#0b5d6c') : sourceColour(i)),
      areaStyle: props.split === 'none' ? { opacity: 0.12 } : undefined,
    })),
  }
}) // prettier-ignore

const dayAndMonth = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' })
function shortDate(date: string) {
  return dayAndMonth.format(new Date(`${date}T00:00:00Z`))
}

const summary = computed(() => {
  const visits = props.view.days.map((day) => day.visits)
  const highest = Math.max(...visits)
  const on = props.view.days[visits.indexOf(highest)]?.date
  return `Line chart of ${props.view.days.length} days; the most visits, ${highest}, were on ${on}.`
})
</script>

<template>
  <div class="chart" role="img" :aria-label="summary">
    <VChart :option="option" :update-options="{ notMerge: true }" autoresize />
  </div>
</template>

<style scoped>
.chart {
  height: 280px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--sheet);
  padding: 10px 6px;
}
</style>
