<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import SelectButton from 'primevue/selectbutton'
import Skeleton from 'primevue/skeleton'
import { computed, defineAsyncComponent } from 'vue'
import { useRoute } from 'vue-router'
import { readingsQuery } from '@/api/queries'
import { count, counted, percent, rateText } from '@/figures'
import { t } from '@/i18n'
import { lanes as lanesOf, UNTAGGED } from '@/sourceColours'
import CoverageBar from '@/sources/CoverageBar.vue'
import ButtonsBySources from './ButtonsBySources.vue'
import FigureRow from './FigureRow.vue'
import FigureTile from './FigureTile.vue'
import RateWhisker from './RateWhisker.vue'
import ShareFigures from './ShareFigures.vue'
import { useInAddress } from '@/shell/useInAddress'
import { useMay } from '@/team/useMay'
import { rateChangeWords, shareWords } from './changeWords'
import IncludeFlood from './IncludeFlood.vue'
import LeftOutList from './LeftOutList.vue'
import OffNotice from './OffNotice.vue'
import OrderAdvice from './OrderAdvice.vue'
import RangeChoice from './RangeChoice.vue'
import { COMPARISONS, spanWords } from './ranges'
import { REASONS } from './reasons'
import TakeAway from './TakeAway.vue'
import ThreeAnswers from './ThreeAnswers.vue'
import TodaySoFar from './TodaySoFar.vue'
import TookNotes from './TookNotes.vue'
import WeekByHour from './WeekByHour.vue'
import TimesAskedFor from './TimesAskedFor.vue'
import WhatCameIn from './WhatCameIn.vue'
import WhoStayed from './WhoStayed.vue'
import WhoTheyAre from './WhoTheyAre.vue'

const OverTime = defineAsyncComponent(() => import('./OverTime.vue'))

const route = useRoute()
const may = useMay()
const range = useInAddress('range', '28d')
const compare = useInAddress('compare', 'before')
const compared = computed(() => COMPARISONS.find(({ value }) => value === compare.value)?.value ?? 'before')
const chosenSplit = useInAddress('by', 'none')
const splits = [
  { value: 'none', label: t('readings.all') },
  { value: 'source', label: t('readings.bySource') },
  { value: 'button', label: t('readings.byButton') },
] as const
const split = computed({
  get: () => splits.find(({ value }) => value === chosenSplit.value)?.value ?? 'none',
  set: (value) => (chosenSplit.value = value),
})
const {
  data: view,
  error,
  isPlaceholderData,
} = useQuery(readingsQuery(() => String(route.params.page), range, compared))

const lanes = computed(() =>
  lanesOf(view.value?.sources ?? [], (id) => (view.value?.bySource[id]?.visits ?? 0) > 0),
)
const leftOut = computed(() => (view.value?.leftOut ?? []).filter((out) => out.views + out.clicks > 0))
const untaggedShare = computed(() => {
  const visits = view.value?.total.visits ?? 0
  return visits ? (view.value?.bySource[UNTAGGED]?.visits ?? 0) / visits : undefined
})
/** The one thing to do about visits from nobody knows where. */
const stillPlain = computed(() => {
  const plain = view.value?.stillPlain
  const name = view.value?.sources.find(({ id }) => id === plain?.source)?.name
  if (!plain || !name) return ''
  return t('readings.stillPlain', {
    name,
    visits: counted(plain.visits, 'visit'),
    aDay: counted(Math.round(plain.aDay), 'visit'),
  })
})
</script>

<template>
  <div class="view">
    <div class="view-head">
      <div>
        <h1>{{ $t('readings.readings') }}</h1>
        <p v-if="view">{{ spanWords(view.from, view.to) }}</p>
        <TodaySoFar v-if="view?.today" :today="view.today" />
      </div>
      <RangeChoice v-model:range="range" v-model:compare="compare" :from="view?.from" :to="view?.to" />
    </div>
    <p v-if="error && !view" class="notice" role="alert">{{ error.message }}</p>
    <div v-else-if="!view" aria-busy="true">
      <Skeleton height="90px" class="gap" /><Skeleton height="260px" />
    </div>
    <template v-else>
      <p v-if="view.recounting" class="notice" role="status">
        {{ $t('readings.daysAreCountedAnew', view.recounting) }}
      </p>
      <OffNotice :page-id="String(route.params.page)" />
      <ThreeAnswers :view="view" :lanes="lanes" />
      <FigureRow :columns="6" :old="isPlaceholderData" :aria-label="$t('readings.headlineFigures')">
        <FigureTile first :label="$t('readings.clickThroughRate')" :value="rateText(view.total.clickThrough)">
          <p v-if="view.missing" class="note amber">
            {{ $t('readings.moreVisitsNeeded', view.missing) }}
          </p>
          <p v-else class="note">
            <RateWhisker :rate="view.total.clickThrough" :widest="1" />
            {{
              $t('readings.likely', {
                taken: count(view.total.clickThrough.taken),
                of: counted(view.total.clickThrough.of, 'visit'),
                low: percent(view.total.clickThrough.interval.low),
                high: percent(view.total.clickThrough.interval.high),
              })
            }}
          </p>
          <p v-if="view.changes" class="note">{{ rateChangeWords(view.changes.clickThrough) }}</p>
        </FigureTile>
        <FigureTile :label="$t('readings.visits')" :value="count(view.total.visits)">
          <p class="note">
            {{ (view.changes && shareWords(view.changes.visits)) || $t('readings.inThisTime') }}
          </p>
        </FigureTile>
        <FigureTile :label="$t('readings.clicks')" :value="count(view.total.clicks)">
          <p class="note">
            {{
              view.changes
                ? shareWords(view.changes.clicks) || $t('readings.nothingBefore')
                : $t('readings.on', { buttons: counted(view.blocks.length, 'button') })
            }}
          </p>
        </FigureTile>
        <FigureTile :label="$t('readings.visitors')" :value="count(view.total.visitors)">
          <p class="note">
            {{ view.changes && shareWords(view.changes.visitors) }} {{ $t('readings.countedAfreshEachDay') }}
          </p>
        </FigureTile>
        <FigureTile :label="$t('readings.views')" :value="count(view.total.views)">
          <p class="note">{{ $t('readings.timesThePageWasOpened') }}</p>
        </FigureTile>
        <FigureTile
          :label="$t('common.untagged')"
          :value="untaggedShare === undefined ? '–' : percent(untaggedShare)"
        >
          <p class="note">{{ $t('readings.ofVisitsCameFromNobody') }}</p>
        </FigureTile>
      </FigureRow>

      <div class="gap">
        <CoverageBar :coverage="view.coverage" />
        <p v-if="untaggedShare" class="soft small">{{ $t('readings.comeBack') }}</p>
        <p v-if="stillPlain" class="do">
          {{ stillPlain }}
          <RouterLink
            v-if="may.edit.value"
            class="mend"
            :to="{ name: 'sources', params: { page: String(route.params.page) } }"
            >{{ $t('readings.copyItsAddress') }}</RouterLink
          >
        </p>
      </div>

      <section aria-labelledby="table-title">
        <h2 id="table-title">{{ $t('readings.whichButtonFromWhere') }}</h2>
        <ButtonsBySources :view="view" :lanes="lanes" />
      </section>

      <section aria-labelledby="line-title">
        <div class="section-head">
          <h2 id="line-title">
            {{ split === 'button' ? $t('readings.clicksOverTime') : $t('readings.visitsOverTime') }}
          </h2>
          <SelectButton
            v-model="split"
            :options="[...splits]"
            option-value="value"
            option-label="label"
            :allow-empty="false"
            size="small"
            :aria-label="$t('readings.split')"
          />
        </div>
        <OverTime :view="view" :lanes="lanes" :split="split" />
        <TookNotes :view="view" />
      </section>

      <WhoStayed :view="view" :lanes="lanes" />
      <WhatCameIn :view="view" :lanes="lanes" />
      <TimesAskedFor :view="view" :lanes="lanes" />

      <WeekByHour :view="view" />

      <WhoTheyAre :view="view" />

      <OrderAdvice :page-id="String(route.params.page)" />

      <section aria-labelledby="left-title">
        <h2 id="left-title">{{ $t('readings.keptAndNotCounted') }}</h2>
        <p v-if="view.shed" class="notice">
          {{ $t('readings.couldNotBeKeptSince', { events: counted(view.shed, 'event') }) }}
        </p>
        <p v-if="leftOut.length === 0" class="soft">{{ $t('readings.nothingWasLeftOut') }}</p>
        <ul v-else class="left-out">
          <li v-for="out in leftOut" :key="out.reason">
            <strong>{{ count(out.views + out.clicks) }}</strong> {{ REASONS[out.reason] }}
            <IncludeFlood
              v-if="out.reason === 'flood' && may.edit.value"
              :page-id="String(route.params.page)"
              :range="range"
              :events="out.views + out.clicks"
            />
          </li>
        </ul>
        <LeftOutList :page-id="String(route.params.page)" :range="range" :reasons="REASONS" />
      </section>

      <TakeAway :page-id="String(route.params.page)" :range="range" />

      <ShareFigures v-if="may.edit.value" :of="String(route.params.page)" />
    </template>
  </div>
</template>

<style scoped>
.gap {
  margin-top: 18px;
  margin-bottom: 16px;
}
.do {
  margin-top: 8px;
}
section + section {
  margin-top: 28px;
}
section > h2,
.section-head {
  margin-bottom: 10px;
}
.section-head {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  justify-content: space-between;
  align-items: center;
}
.left-out {
  list-style: none;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 26px;
  padding: 0;
  margin: 0;
}
@media (max-width: 720px) {
  .view-head :deep(.p-selectbutton),
  .section-head :deep(.p-selectbutton) {
    flex-wrap: wrap;
  }
}
</style>
