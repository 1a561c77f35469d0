<script setup lang="ts">
import { MoveDownRight, MoveUpRight } from '@lucide/vue'
import { computed, reactive } from 'vue'
import { useRoute } from 'vue-router'
import type { ReadingsView } from '@/api/client'
import { count, counted, isEnough, percent, rateText, rateWords } from '@/figures'
import { t } from '@/i18n'
import { MAY_BE_LOW } from '@/kinds/plain'
import { tint, type Lane } from '@/sourceColours'
import FieldChoice from '@/fields/FieldChoice.vue'
import { useInAddress } from '@/shell/useInAddress'
import {
  columnClicks,
  marksOf,
  shareOf,
  itemsOf,
  tableRows,
  type Mark,
  type Shows,
  type Sort,
  type TableRow,
} from './buttonTable'
import { rateChangeWords } from './changeWords'
import { onFigureKey } from './figureKeys'
import RateWhisker from './RateWhisker.vue'

type Cell = ReadingsView['blocks'][number]['bySource'][string]

/** The main table: clicks and rate of every button from every source. */
const props = defineProps<{ view: ReadingsView; lanes: Lane[] }>()

const SHOWS: { value: Shows; label: string }[] = [
  { value: 'counts', label: t('readings.showCounts') },
  { value: 'rate', label: t('readings.showRate') },
  { value: 'row', label: t('readings.showRow') },
  { value: 'column', label: t('readings.showColumn') },
]
const SORTS: { value: Sort; label: string }[] = [
  { value: 'place', label: t('readings.sortPlace') },
  { value: 'clicks', label: t('readings.sortClicks') },
  { value: 'rate', label: t('readings.sortRate') },
]
const chosenShows = useInAddress('shows', 'counts')
const shows = computed({
  get: () => SHOWS.find(({ value }) => value === chosenShows.value)?.value ?? 'counts',
  set: (value) => (chosenShows.value = value),
})
const chosenSort = useInAddress('sort', 'place')
const sort = computed({
  get: () => SORTS.find(({ value }) => value === chosenSort.value)?.value ?? 'place',
  set: (value) => (chosenSort.value = value),
})

const rows = computed(() => tableRows(props.view, sort.value))
const columns = computed(() => columnClicks(props.view))
const marks = computed(() => marksOf(props.view))
const markOf = (block: string, source: string) => marks.value.get(`${block} ${source}`)
/** What a mark says: more, or less, than this source and this button explain. */
function markWords({ takers, expected, residual }: Mark) {
  const words = { takers: count(takers), expected: count(Math.round(expected)) }
  return residual > 0 ? t('readings.moreThanExplained', words) : t('readings.lessThanExplained', words)
}

/** What the frames of cells say, and of how many cells nothing can be told. */
const aboutMarks = computed(() => {
  const { marks, cells, compared, missing } = props.view.association
  if (props.view.missing) return t('readings.marksNeedMore', props.view.missing)
  if (compared === 0) return missing ? t('readings.marksOfNone', { n: missing }, missing) : ''
  const says = marks.length ? t('readings.marksSay') : t('readings.noMarks')
  return compared < cells
    ? `${says} ${t('readings.marksOfSome', { few: cells - compared, all: cells })}`
    : says
})

/** Whether a button is pressed more or less than before; empty where nothing can be compared. */
function changeWords(block: string) {
  const change = props.view.changes?.blocks[block]
  return change ? rateChangeWords(change) : ''
}
const isCalled = (block: string) => props.view.changes?.blocks[block]?.called ?? false
const ofRate = ({ block, figures }: TableRow) =>
  [`${rateWords(figures!.total.rate, 'ofVisitsShown')}.`, changeWords(block)].filter(Boolean).join(' ')

/** The figure of a cell, and what stands small below it. */
function figureOf(row: TableRow, source: string): [string, string] {
  const [figures, cell] = [row.figures!, row.figures!.bySource[source]!]
  if (shows.value === 'counts') return [count(cell.clicks), rateText(cell.rate)]
  const share = shareOf(shows.value, cell, figures, columns.value.get(source) ?? 0)
  return [share === undefined ? '–' : percent(share), count(cell.clicks)]
}
const most = computed(() =>
  Math.max(1, ...props.view.blocks.flatMap((row) => Object.values(row.bySource).map((cell) => cell.clicks))),
)
const widest = computed(() =>
  Math.max(
    0.02,
    ...props.view.blocks.filter((row) => row.total.rate.of > 0).map((row) => row.total.rate.interval.high),
  ),
)
function cellWords({ clicks, rate }: Cell, mark?: Mark) {
  const words = { clicks: counted(clicks, 'click'), rate: rateWords(rate, 'ofVisits') }
  return [t('readings.clicksAndRate', words), mark && markWords(mark)].filter(Boolean).join('. ')
}

const route = useRoute()
const toButton = (block: string, from?: string) => ({
  name: 'one-button',
  params: { page: route.params.page, block },
  query: { range: route.query.range, from },
})
const toSource = (source: string) => ({
  name: 'one-source',
  params: { page: route.params.page, source },
  query: { range: route.query.range },
})

/** Rows that are open, so that the several things on a block stand below it. */
const opened = reactive(new Set<string>())
const toggle = (block: string) => void (opened.delete(block) || opened.add(block))

/** Whether a figure is the first of the table: the one that takes the Tab. */
const isFirst = (row: { block: string }, lane: Lane) => {
  const first = rows.value.find(({ figures }) => props.lanes.some(({ id }) => figures?.bySource[id]))
  return (
    first?.block === row.block && props.lanes.find(({ id }) => first.figures?.bySource[id])?.id === lane.id
  )
}
</script>

<template>
  <p v-if="rows.length === 0" class="soft">{{ $t('readings.thePageHasNoButtons') }}</p>
  <template v-else>
    <div class="switches">
      <FieldChoice v-model="shows" :label="$t('readings.cellsShow')" :options="SHOWS" />
      <FieldChoice v-model="sort" :label="$t('readings.inOrderOf')" :options="SORTS" />
    </div>
    <div class="scroller" tabindex="0" role="region" :aria-label="$t('readings.buttonsBySources')">
      <table @keydown="onFigureKey">
        <thead>
          <tr>
            <th scope="col" class="title">{{ $t('common.button') }}</th>
            <th
              v-for="lane in lanes"
              :key="lane.id"
              scope="col"
              :style="{ '--colour': lane.colour }"
              class="lane"
            >
              <RouterLink class="to" :to="toSource(lane.id)">{{ lane.name }}</RouterLink>
            </th>
            <th scope="col" class="total">{{ $t('readings.all') }}</th>
            <th scope="col" class="rate">{{ $t('readings.rateOfVisitsShown') }}</th>
          </tr>
        </thead>
        <tbody v-for="row in rows" :key="row.block">
          <tr data-figures>
            <th scope="row" class="title">
              <span class="place">{{ row.place || '–' }}</span><RouterLink
                class="to"
                :to="toButton(row.block)"
                >{{ row.title }}</RouterLink
              >
              <button
                v-if="itemsOf(row).length"
                type="button"
                class="opens"
                :aria-expanded="opened.has(row.block)"
                @click="toggle(row.block)"
              >
                {{
                  opened.has(row.block)
                    ? $t('readings.closeItems')
                    : $t('readings.openItems', { n: itemsOf(row).length }, itemsOf(row).length)
                }}
              </button>
            </th>
            <td
              v-for="lane in lanes"
              :key="lane.id"
              :style="{
                '--colour': lane.colour,
                '--tint': tint(row.figures?.bySource[lane.id]?.clicks ?? 0, most),
              }"
            >
              <RouterLink
                v-if="row.figures?.bySource[lane.id]"
                v-tooltip.top="cellWords(row.figures.bySource[lane.id]!, markOf(row.block, lane.id))"
                class="cell"
                :class="{ marked: markOf(row.block, lane.id) }"
                :data-figure="lane.id"
                :to="toButton(row.block, lane.id)"
                :tabindex="isFirst(row, lane) ? 0 : -1"
                :aria-label="cellWords(row.figures.bySource[lane.id]!, markOf(row.block, lane.id))"
              >
                <strong>{{ figureOf(row, lane.id)[0] }}</strong>
                <small>{{ figureOf(row, lane.id)[1] }}</small>
                <MoveUpRight
                  v-if="(markOf(row.block, lane.id)?.residual ?? 0) > 0"
                  class="mark"
                  aria-hidden="true"
                />
                <MoveDownRight v-else-if="markOf(row.block, lane.id)" class="mark" aria-hidden="true" />
              </RouterLink>
            </td>
            <td class="total">
              <strong v-tooltip.top="row.plain ? MAY_BE_LOW : undefined"
                >{{ row.plain ? '≥\u00a0' : '' }}{{ count(row.figures?.total.clicks ?? 0) }}</strong
              >
            </td>
            <td class="rate">
              <span
                v-if="row.figures && row.figures.total.rate.of > 0"
                v-tooltip.top="ofRate(row)"
                class="whole"
                data-figure="rate"
                role="img"
                tabindex="-1"
                :aria-label="ofRate(row)"
              >
                <RateWhisker
                  v-if="isEnough(row.figures.total.rate)"
                  :rate="row.figures.total.rate"
                  :widest="widest"
                />
                {{ rateText(row.figures.total.rate) }}
              </span>
              <small v-if="isCalled(row.block)" class="change">{{ changeWords(row.block) }}</small>
            </td>
          </tr>
          <template v-if="opened.has(row.block)">
            <tr v-for="item in itemsOf(row)" :key="item.item" class="item">
              <th scope="row" class="title">{{ item.title }}</th>
              <td v-for="lane in lanes" :key="lane.id">{{ count(item.bySource[lane.id] ?? 0) }}</td>
              <td class="total">{{ count(item.clicks) }}</td>
              <td class="rate">{{ item.rate.of ? rateText(item.rate) : '' }}</td>
            </tr>
          </template>
        </tbody>
        <tfoot>
          <tr data-figures>
            <th scope="row" class="title">{{ $t('readings.visits') }}</th>
            <td v-for="lane in lanes" :key="lane.id">
              <span class="cell"
                ><strong>{{ count(view.bySource[lane.id]?.visits ?? 0) }}</strong>
                <small
                  v-if="view.bySource[lane.id]?.visits"
                  v-tooltip.top="rateWords(view.bySource[lane.id]!.clickThrough, 'ofVisitsAny')"
                  :data-figure="lane.id"
                  role="img"
                  tabindex="-1"
                  :aria-label="rateWords(view.bySource[lane.id]!.clickThrough, 'ofVisitsAny')"
                  >{{ rateText(view.bySource[lane.id]!.clickThrough) }}</small
                >
              </span>
            </td>
            <td class="total">
              <strong>{{ count(view.total.visits) }}</strong>
            </td>
            <td class="rate">
              {{
                isEnough(view.total.clickThrough)
                  ? $t('readings.pressedSomething', { percent: percent(view.total.clickThrough.rate) })
                  : ''
              }}
            </td>
          </tr>
        </tfoot>
      </table>
    </div>
    <p class="soft small">{{ aboutMarks }}</p>
  </template>
</template>

<style scoped>
.scroller {
  overflow-x: auto;
  border: 1px solid var(--line-strong);
  border-radius: 6px;
  background: var(--surface);
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  padding: 6px 10px;
  text-align: right;
  border-left: 1px solid var(--line);
}
thead th {
  font-size: 0.84rem;
  vertical-align: bottom;
  line-height: 1.2;
}
thead .lane {
  border-bottom: 4px solid var(--colour);
}
thead .total,
thead .rate,
thead .title {
  border-bottom: 4px solid transparent;
}
tbody td {
  background: color-mix(in srgb, var(--colour, transparent) var(--tint, 0%), transparent);
}
tbody tr + tr > * {
  border-top: 1px solid var(--line);
}
tfoot th,
tfoot td {
  border-top: 2px solid var(--line-strong);
}
.title {
  text-align: left;
  border-left: 0;
  font-weight: 600;
  min-width: 12rem;
  position: sticky;
  left: 0;
  background: var(--surface);
  z-index: 1;
}
/* A long title goes on under itself, not under its number. */
.title:has(.place) {
  padding-left: calc(10px + 1.6em);
}
.place {
  display: inline-block;
  width: 1.6em;
  margin-left: -1.6em;
  color: var(--ink-soft);
}
.cell {
  display: grid;
  line-height: 1.2;
}
.cell.marked {
  position: relative;
  outline: 2px solid var(--ink);
  outline-offset: 3px;
  border-radius: 2px;
}
.mark {
  position: absolute;
  left: -2px;
  top: 0;
  width: 14px;
  height: 14px;
}
.switches {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
  margin-bottom: 10px;
}
.change {
  display: block;
  max-width: 15rem;
  white-space: normal;
  font-size: 0.78rem;
  font-weight: 600;
}
.cell small {
  color: var(--ink);
  font-size: 0.78rem;
}
.total {
  border-left: 2px solid var(--line-strong);
}
td.rate,
th.rate {
  text-align: left;
  white-space: nowrap;
}
.whole {
  display: flex;
  align-items: center;
  gap: 10px;
}
@media (max-width: 720px) {
  .title {
    min-width: 9rem;
    max-width: 9rem;
    font-size: 0.9rem;
  }
}
.title a,
thead .lane a {
  color: inherit;
  text-decoration: none;
}
.title a:hover,
thead .lane a:hover {
  text-decoration: underline;
}
a.cell {
  color: inherit;
  text-decoration: none;
}
.opens {
  display: block;
  margin-left: 26px;
  padding: 0;
  border: 0;
  background: none;
  font: inherit;
  font-size: 0.78rem;
  font-weight: 400;
  color: var(--accent);
  text-decoration: underline;
  cursor: pointer;
  min-height: 24px;
}
.item th,
.item td {
  font-size: 0.84rem;
  font-weight: 400;
  padding-block: 3px;
}
.item th {
  padding-left: 36px;
}
</style>
