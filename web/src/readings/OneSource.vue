<script setup lang="ts">
import { ArrowLeft } from '@lucide/vue'
import { useQuery } from '@tanstack/vue-query'
import Skeleton from 'primevue/skeleton'
import { computed, defineAsyncComponent } from 'vue'
import { useRoute } from 'vue-router'
import { sourceReadingsQuery, sourcesQuery } from '@/api/queries'
import { count, counted, isEnough, percent, rateText } from '@/figures'
import { t } from '@/i18n'
import { useSession } from '@/session'
import { useInAddress } from '@/shell/useInAddress'
import { UNLISTED, UNTAGGED } from '@/sourceColours'
import CoverageBar from '@/sources/CoverageBar.vue'
import DetailSplits from './DetailSplits.vue'
import FigureRow from './FigureRow.vue'
import FigureTile from './FigureTile.vue'
import RangeChoice from './RangeChoice.vue'
import RateWhisker from './RateWhisker.vue'
import { pointOf } from './timeMarks'
import { spanWords } from './ranges'

const TimeChart = defineAsyncComponent(() => import('./TimeChart.vue'))

/** One source: who came from it, and what they press. */
const route = useRoute()
const zone = useSession().me?.zone ?? 'UTC'
const pageId = computed(() => String(route.params.page))
const source = computed(() => String(route.params.source))
const range = useInAddress('range', '28d')
const compare = useInAddress('compare', 'before')
const { data: view, error } = useQuery(sourceReadingsQuery(pageId, source, range))
const { data: sources } = useQuery(sourcesQuery(pageId))
const name = computed(() => {
  if (source.value === UNTAGGED) return t('common.untagged')
  if (source.value === UNLISTED) return t('sourceColours.unlisted')
  return sources.value?.find(({ id }) => id === source.value)?.name ?? t('readings.aSource')
})
const answer = computed(() => {
  const figures = view.value?.figures
  if (!figures?.visits) return t('readings.nobodyCame')
  const { taken, of, rate, interval } = figures.clickThrough
  const words = t('readings.sourceAnswer', {
    visits: counted(figures.visits, 'visit'),
    taken: count(taken),
    of: count(of),
    rate: percent(rate),
    low: percent(interval.low),
    high: percent(interval.high),
  })
  const [first] = view.value!.blocks
  return first?.figures.clicks ? `${words} ${t('readings.mostPressed', { title: first.title })}` : words
})
const points = computed(() => view.value?.days.map(({ date }) => date) ?? [])
const series = computed(() => [
  { name: t('readings.visits'), values: view.value?.days.map(({ of }) => of) ?? [] },
])
const today = pointOf(new Date().toISOString(), 'day', zone)
const widest = computed(() =>
  Math.max(
    0.02,
    ...(view.value?.blocks ?? [])
      .filter(({ figures }) => figures.rate.of >= 30)
      .map(({ figures }) => figures.rate.interval.high),
  ),
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
          <h1>{{ name }}</h1>
          <p>{{ spanWords(view.from, view.to) }}</p>
        </div>
        <RangeChoice v-model:range="range" v-model:compare="compare" :from="view.from" :to="view.to" alone />
      </div>
      <p class="answer">{{ answer }}</p>
      <FigureRow :columns="4" :aria-label="$t('readings.headlineFigures')">
        <FigureTile first :label="$t('readings.visits')" :value="count(view.figures.visits)">
          <p class="note">{{ $t('readings.inThisTime') }}</p>
        </FigureTile>
        <FigureTile :label="$t('readings.clickThroughRate')" :value="rateText(view.figures.clickThrough)">
          <p class="note"><RateWhisker :rate="view.figures.clickThrough" :widest="1" /></p>
        </FigureTile>
        <FigureTile :label="$t('readings.clicks')" :value="count(view.figures.clicks)" />
        <FigureTile :label="$t('readings.visitors')" :value="count(view.figures.visitors)">
          <p class="note">{{ $t('readings.countedAfreshEachDay') }}</p>
        </FigureTile>
      </FigureRow>

      <section aria-labelledby="days-title">
        <h2 id="days-title">{{ $t('readings.dayByDay') }}</h2>
        <TimeChart
          :points="points"
          :series="series"
          :label="$t('readings.visitsFromByDay', { name })"
          :unfinished="points.length > 1 && points.at(-1) === today"
          stacked
          mean
        />
      </section>

      <section v-if="view.blocks.length" aria-labelledby="press-title">
        <h2 id="press-title">{{ $t('readings.whatTheyPress') }}</h2>
        <div class="scroller" tabindex="0" role="region" :aria-label="$t('readings.pressTable')">
          <table class="press">
            <thead>
              <tr>
                <th scope="col">{{ $t('common.button') }}</th>
                <th scope="col">{{ $t('readings.clicks') }}</th>
                <th scope="col">{{ $t('readings.rateFromHere') }}</th>
                <th scope="col">{{ $t('readings.rateFromEverywhere') }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="row in view.blocks" :key="row.block">
                <th scope="row">
                  <RouterLink
                    :to="{
                      name: 'one-button',
                      params: { page: pageId, block: row.block },
                      query: { range: route.query.range, from: source },
                    }"
                    >{{ row.title }}</RouterLink
                  >
                </th>
                <td>{{ count(row.figures.clicks) }}</td>
                <td>
                  <span v-if="isEnough(row.figures.rate)" class="whole">
                    <RateWhisker :rate="row.figures.rate" :widest="widest" />
                    {{ percent(row.figures.rate.rate) }}
                  </span>
                  <span v-else class="soft">{{ $t('readings.tooFew') }}</span>
                </td>
                <td>{{ rateText(row.all) }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </section>

      <DetailSplits :view="view" />
      <CoverageBar v-if="view.evidence.length > 1" class="evidence" :coverage="view.evidence" />
      <section v-if="view.neighbours.length" aria-labelledby="near-title">
        <h2 id="near-title">{{ $t('readings.neighbours') }}</h2>
        <p class="soft">{{ $t('readings.neighboursSay') }}</p>
        <ul>
          <li v-for="place in view.neighbours" :key="place.key">
            <strong>{{ place.name }}</strong> {{ counted(place.figures.visits, 'visit') }}
          </li>
        </ul>
      </section>
    </template>
  </div>
</template>

<style scoped>
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
.scroller {
  overflow-x: auto;
}
.press {
  border-collapse: collapse;
  border: 1px solid var(--line-strong);
  background: var(--surface);
  width: 100%;
}
.press th,
.press td {
  padding: 6px 10px;
  text-align: right;
  border-top: 1px solid var(--line);
}
.press th:first-child {
  text-align: left;
}
.press thead th {
  border-top: 0;
  font-size: 0.84rem;
}
.whole {
  display: inline-flex;
  gap: 6px;
  align-items: center;
}
.evidence {
  margin-top: 28px;
}
</style>
