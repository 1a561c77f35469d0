<script setup lang="ts">
import { ArrowLeft } from '@lucide/vue'
import { useQuery } from '@tanstack/vue-query'
import Select from 'primevue/select'
import Skeleton from 'primevue/skeleton'
import { computed, defineAsyncComponent } from 'vue'
import { useRoute } from 'vue-router'
import { blockReadingsQuery, orderQuery, readingsQuery, sourcesQuery } from '@/api/queries'
import { count, counted, isEnough, percent, rateText, rateWords } from '@/figures'
import { t } from '@/i18n'
import { usePageStore } from '@/page/pageStore'
import { useSession } from '@/session'
import { useInAddress } from '@/shell/useInAddress'
import { lanes as lanesOf } from '@/sourceColours'
import AroundEdits from './AroundEdits.vue'
import { rateChangeWords, weeksWords } from './changeWords'
import DetailSplits from './DetailSplits.vue'
import FigureRow from './FigureRow.vue'
import FigureTile from './FigureTile.vue'
import FirstDays from './FirstDays.vue'
import PlaceRibbon from './PlaceRibbon.vue'
import WindowRibbon from './WindowRibbon.vue'
import RangeChoice from './RangeChoice.vue'
import RateWhisker from './RateWhisker.vue'
import { pointOf } from './timeMarks'
import { COMPARISONS, spanWords } from './ranges'

const TimeChart = defineAsyncComponent(() => import('./TimeChart.vue'))

/** One button: how it does, where it stood, from where it is pressed, and what came of changing it. */
const ALL = 'all'
const route = useRoute()
const page = usePageStore()
const zone = useSession().me?.zone ?? 'UTC'
const pageId = computed(() => String(route.params.page))
const range = useInAddress('range', '28d')
const compare = useInAddress('compare', 'before')
const compared = computed(() => COMPARISONS.find(({ value }) => value === compare.value)?.value ?? 'before')
const from = useInAddress('from', ALL)
const { data: view, error } = useQuery(
  blockReadingsQuery(
    pageId,
    () => String(route.params.block),
    range,
    () => (from.value === ALL ? '' : from.value),
  ),
)
const { data: sources } = useQuery(sourcesQuery(pageId))
const { data: order } = useQuery(orderQuery(pageId, () => page.state?.revision))
const ofOrder = computed(() => order.value?.blocks.find(({ block }) => block === route.params.block))
/** Profile icons and footer links are on the page, and have no position among its blocks. */
const ROWS_WITHOUT_POSITION = ['icons', 'footer', 'pass-through']
const pull = computed(() => ofOrder.value?.pull)
const pullSays = computed(() => {
  if (ROWS_WITHOUT_POSITION.includes(String(route.params.block))) return t('readings.noPositionOfItsOwn')
  if (!ofOrder.value) return t('readings.notOnPageNow')
  return pull.value === undefined ? t('readings.tooNew') : t('readings.averageIsOne')
})

const lanes = computed(() =>
  lanesOf(sources.value ?? [], (id) => (view.value?.bySource[id]?.rate.of ?? 0) > 0),
)
const choices = computed(() => [
  { value: ALL, label: t('readings.fromEverywhere') },
  ...lanes.value.map(({ id, name }) => ({ value: id, label: t('readings.from', { name }) })),
])
const rate = computed(() => view.value?.total.rate)
const answer = computed(() => {
  if (!rate.value || !view.value) return ''
  if (rate.value.of === 0) return t('readings.neverShown')
  if (!isEnough(rate.value)) return rateWords(rate.value, 'ofVisitsShown')
  const words = t('readings.buttonAnswer', {
    taken: count(rate.value.taken),
    of: counted(rate.value.of, 'visit'),
    rate: percent(rate.value.rate),
    low: percent(rate.value.interval.low),
    high: percent(rate.value.interval.high),
  })
  const { halfLife, shares, fades } = view.value.firstDays
  if (!fades) return words
  const half = halfLife < 10 ? halfLife.toFixed(1) : String(Math.round(halfLife))
  return `${words} ${t('readings.halfLife', { half, n: shares.length })}`
})
/**
 * Whether it is pressed more or less than before: as all buttons of the page are compared together, so that here stands
 * what stands there.
 */
const { data: ofPage } = useQuery(readingsQuery(pageId, range, compared))
const change = computed(() => {
  const changes = ofPage.value?.changes
  const own = changes?.blocks[String(route.params.block)]
  if (!changes || !own || from.value !== ALL) return ''
  const words = [rateChangeWords(own), own.called ? '' : weeksWords(own.needs)].filter(Boolean).join(' ')
  return t('readings.comparedWithDays', { days: spanWords(changes.from, changes.to), words })
})
/** How often it was on screen, where the page measures that. */
const onScreen = computed(() => {
  const known = view.value?.onScreen
  if (!known) return ''
  const words = t('readings.onScreen', {
    share: percent(known.share.rate),
    low: percent(known.share.interval.low),
    high: percent(known.share.interval.high),
  })
  if (!isEnough(known.pressed)) return words
  return `${words} ${t('readings.onScreenPressed', { rate: percent(known.pressed.rate) })}`
})
const points = computed(() => view.value?.days.map(({ date }) => date) ?? [])
const series = computed(() => [
  { name: t('readings.clicks'), values: view.value?.days.map(({ clicks }) => clicks) ?? [] },
])
const today = pointOf(new Date().toISOString(), 'day', zone)
const marks = computed(() =>
  (view.value?.edits ?? []).map(({ at, edition, sentences }) => ({
    at: pointOf(at, 'day', zone),
    label: String(edition),
    says: sentences.join(' '),
  })),
)
</script>

<template>
  <div class="view">
    <RouterLink
      class="back"
      :to="{ name: 'readings', params: { page: pageId }, query: { range: route.query.range } }"
    >
      <ArrowLeft aria-hidden="true" /> {{ $t('readings.allReadings') }}
    </RouterLink>
    <p v-if="error && !view" class="notice" role="alert">{{ error.message }}</p>
    <div v-else-if="!view" aria-busy="true"><Skeleton height="260px" /></div>
    <template v-else>
      <div class="view-head">
        <div>
          <h1>{{ view.title }}</h1>
          <p>{{ spanWords(view.from, view.to) }}</p>
        </div>
        <div class="choose">
          <Select
            v-model="from"
            :options="choices"
            option-value="value"
            option-label="label"
            size="small"
            :aria-label="$t('readings.fromWhere')"
          />
          <RangeChoice v-model:range="range" v-model:compare="compare" :from="view.from" :to="view.to" />
        </div>
      </div>
      <p class="answer">{{ answer }}</p>
      <p v-if="change">{{ change }}</p>
      <p v-if="onScreen">{{ onScreen }}</p>
      <FigureRow :columns="5" :aria-label="$t('readings.headlineFigures')">
        <FigureTile first :label="$t('readings.rateOfVisitsShown')" :value="rateText(view.total.rate)">
          <p class="note">
            <RateWhisker v-if="isEnough(view.total.rate)" :rate="view.total.rate" :widest="1" />
          </p>
        </FigureTile>
        <FigureTile :label="$t('readings.clicks')" :value="count(view.total.clicks)">
          <p class="note">{{ $t('readings.oneMayClickTwice') }}</p>
        </FigureTile>
        <FigureTile :label="$t('readings.takers')" :value="count(view.total.rate.taken)">
          <p class="note">{{ $t('readings.visitsThatPressedIt') }}</p>
        </FigureTile>
        <FigureTile :label="$t('readings.reach')" :value="count(view.total.rate.of)">
          <p class="note">{{ $t('readings.visitsThatWereShownIt') }}</p>
        </FigureTile>
        <FigureTile :label="$t('readings.pull')" :value="pull === undefined ? '–' : pull.toFixed(1)">
          <p class="note">{{ pullSays }}</p>
        </FigureTile>
      </FigureRow>

      <section aria-labelledby="days-title">
        <h2 id="days-title">{{ $t('readings.dayByDay') }}</h2>
        <TimeChart
          :points="points"
          :series="series"
          :label="$t('readings.clicksOfByDay', { title: view.title })"
          :marks="marks"
          :unfinished="points.length > 1 && points.at(-1) === today"
          stacked
          mean
        />
        <PlaceRibbon :placements="view.placements" :points="points" :zone="zone" />
        <WindowRibbon :windows="view.windows" :from="view.from" :days="points.length" :zone="zone" />
      </section>

      <AroundEdits :edits="view.edits" :placements="view.placements" :windows="view.windows" />

      <DetailSplits :view="view" :lanes="lanes" :by-source="view.bySource" />

      <FirstDays :first="view.firstDays" />
    </template>
  </div>
</template>

<style scoped>
.choose {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.answer {
  font-size: 1.1rem;
  max-width: 50rem;
  margin-bottom: 14px;
}
section {
  margin-top: 28px;
}
section > h2 {
  margin-bottom: 10px;
}
</style>
