<script setup lang="ts">
import { ArrowLeft, Printer } from '@lucide/vue'
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Skeleton from 'primevue/skeleton'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { readingsQuery } from '@/api/queries'
import { count, counted, percent, rateText } from '@/figures'
import { useSession } from '@/session'
import { usePageName } from '@/pages/usePageName'
import { lanes as lanesOf } from '@/sourceColours'
import CoverageBar from '@/sources/CoverageBar.vue'
import { useInAddress } from '@/shell/useInAddress'
import FigureRow from './FigureRow.vue'
import FigureTile from './FigureTile.vue'
import PrintedLine from './PrintedLine.vue'
import RangeChoice from './RangeChoice.vue'
import { COMPARISONS, spanWords } from './ranges'
import { REASONS } from './reasons'
import ThreeAnswers from './ThreeAnswers.vue'
import { pointOf } from './timeMarks'

/** A range on one sheet of A4, to hand on: the answers, the figures, the strongest buttons. */
const ROWS = 10
const COLUMNS = 7
const route = useRoute()
const range = useInAddress('range', '28d')
const compare = useInAddress('compare', 'before')
const compared = computed(() => COMPARISONS.find(({ value }) => value === compare.value)?.value ?? 'before')
const pageId = computed(() => String(route.params.page))
const { data: view, error } = useQuery(readingsQuery(pageId, range, compared))
const visitsFrom = (id: string) => view.value?.bySource[id]?.visits ?? 0
const lanes = computed(() => lanesOf(view.value?.sources ?? [], (id) => visitsFrom(id) > 0))
const columns = computed(() =>
  [...lanes.value].sort((a, b) => visitsFrom(b.id) - visitsFrom(a.id)).slice(0, COLUMNS),
)
const titles = computed(() => new Map(view.value?.titles.map(({ block, title }) => [block, title])))
const rows = computed(() =>
  [...(view.value?.blocks ?? [])].sort((a, b) => b.total.clicks - a.total.clicks).slice(0, ROWS),
)
const more = computed(() => Math.max(0, (view.value?.blocks.length ?? 0) - ROWS))
/** What was not counted, with the reason of each. */
const excluded = computed(() =>
  (view.value?.leftOut ?? [])
    .filter(({ views, clicks }) => views + clicks > 0)
    .map(({ reason, views, clicks }) => `${count(views + clicks)} ${REASONS[reason]}`)
    .join(', '),
)
/** Today, which is not over, would look as if all had fallen. */
const today = pointOf(new Date().toISOString(), 'day', useSession().me?.zone ?? 'UTC')
const overDays = computed(() => {
  const days = view.value?.days ?? []
  return days.length > 1 && days.at(-1)?.date === today ? days.slice(0, -1) : days
})
const name = usePageName(pageId)
const print = () => window.print()
</script>

<template>
  <div class="view">
    <RouterLink class="back" :to="{ name: 'readings', params: { page: pageId }, query: { range } }">
      <ArrowLeft aria-hidden="true" /> {{ $t('readings.allReadings') }}
    </RouterLink>
    <div class="controls">
      <RangeChoice v-model:range="range" v-model:compare="compare" :from="view?.from" :to="view?.to" />
      <Button size="small" @click="print"><Printer aria-hidden="true" /> {{ $t('readings.print') }}</Button>
    </div>
    <p v-if="error && !view" class="notice" role="alert">{{ error.message }}</p>
    <div v-else-if="!view" aria-busy="true"><Skeleton height="600px" /></div>
    <article v-else class="sheet" tabindex="0" :aria-label="$t('readings.pageToPrint')">
      <header>
        <h1>{{ name }}</h1>
        <p>{{ spanWords(view.from, view.to) }}</p>
      </header>
      <ThreeAnswers :view="view" :lanes="lanes" />
      <FigureRow :columns="4" :aria-label="$t('readings.headlineFigures')">
        <FigureTile first :label="$t('readings.clickThroughRate')" :value="rateText(view.total.clickThrough)">
          <p class="note">
            {{
              $t('readings.likely', {
                taken: count(view.total.clickThrough.taken),
                of: counted(view.total.clickThrough.of, 'visit'),
                low: percent(view.total.clickThrough.interval.low),
                high: percent(view.total.clickThrough.interval.high),
              })
            }}
          </p>
        </FigureTile>
        <FigureTile :label="$t('readings.visits')" :value="count(view.total.visits)" />
        <FigureTile :label="$t('readings.clicks')" :value="count(view.total.clicks)" />
        <FigureTile :label="$t('readings.visitors')" :value="count(view.total.visitors)" />
      </FigureRow>
      <h2>{{ $t('readings.visitsOverTime') }}</h2>
      <PrintedLine :days="overDays" />
      <h2>{{ $t('readings.whichButtonFromWhere') }}</h2>
      <table>
        <thead>
          <tr>
            <th scope="col">{{ $t('common.button') }}</th>
            <th v-for="lane in columns" :key="lane.id" scope="col">{{ lane.name }}</th>
            <th scope="col">{{ $t('readings.all') }}</th>
            <th scope="col">{{ $t('readings.rate') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.block">
            <th scope="row">{{ titles.get(row.block) ?? row.block }}</th>
            <td v-for="lane in columns" :key="lane.id">{{ count(row.bySource[lane.id]?.clicks ?? 0) }}</td>
            <td>
              <strong>{{ count(row.total.clicks) }}</strong>
            </td>
            <td>{{ rateText(row.total.rate) }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="more || lanes.length > COLUMNS" class="soft small">
        {{ $t('readings.sheetLeavesOut', { rows: ROWS, columns: COLUMNS }) }}
      </p>
      <CoverageBar :coverage="view.coverage" />
      <p v-if="excluded" class="soft small">{{ $t('readings.sheetSays', { excluded }) }}</p>
    </article>
  </div>
</template>

<style scoped>
.controls {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin-bottom: 16px;
}
.controls svg {
  width: 15px;
  height: 15px;
}
.sheet {
  max-width: 210mm;
  padding: 14mm;
  border: 1px solid var(--line-strong);
  background: var(--surface);
}
header {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: baseline;
  gap: 4px 16px;
  border-bottom: 2px solid var(--ink);
  margin-bottom: 14px;
}
h2 {
  font-size: 1rem;
  margin: 16px 0 6px;
}
table {
  border-collapse: collapse;
  width: 100%;
  font-size: 0.84rem;
  margin-bottom: 12px;
}
th,
td {
  padding: 3px 6px;
  text-align: right;
  border-top: 1px solid var(--line);
}
th:first-child {
  text-align: left;
  font-weight: 400;
}
thead th {
  font-weight: 600;
  font-size: 0.78rem;
  vertical-align: bottom;
  border: 0;
}
@media (max-width: 720px) {
  .sheet {
    padding: 14px;
    overflow-x: auto;
  }
}
@page {
  size: A4;
  margin: 12mm;
}
@media print {
  .back,
  .controls {
    display: none;
  }
  .view {
    padding: 0;
  }
  .sheet {
    border: 0;
    padding: 0;
    max-width: none;
    /* What fits a screen fits a sheet then, with the longest titles there can be. */
    zoom: 0.75;
  }
}
</style>
