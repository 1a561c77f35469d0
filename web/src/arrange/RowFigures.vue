<script setup lang="ts">
import { computed } from 'vue'
import type { components } from '@/api/generated/schema'
import { count, counted, isEnough, rateText, rateWords } from '@/figures'
import { t } from '@/i18n'
import { MAY_BE_LOW } from '@/kinds/plain'
import { onFigureKey } from '@/readings/figureKeys'
import RateWhisker from '@/readings/RateWhisker.vue'
import { tint, type Lane } from '@/sourceColours'

/** The from lanes of one row: clicks from each source, all clicks, and the rate with its interval. */
const props = defineProps<{
  figures?: components['schemas']['BlockReading']
  lanes: Lane[]
  /** The largest cell of the table; what the tints are measured against. */
  most: number
  widestRate: number
  /** Whether clicks may be more than were counted. */
  mayBeLow?: boolean
  /** Whether there are enough visits for a rate to be coloured. */
  enough: boolean
  /** Clicks of today, where the range ends with yesterday. */
  today?: number
}>()

const todayWords = computed(() => t('arrange.clicksToday', { clicks: counted(props.today ?? 0, 'click') }))

function cell(lane: string) {
  return props.figures?.bySource[lane]
}

function cellWords(lane: Lane) {
  const figures = cell(lane.id)
  return figures
    ? t('arrange.clicksFrom', {
        name: lane.name,
        clicks: counted(figures.clicks, 'click'),
        rate: rateWords(figures.rate, 'ofVisits'),
      })
    : t('arrange.notShown', { name: lane.name })
}
</script>

<template>
  <div class="figures" data-figures @keydown="onFigureKey">
    <span
      v-for="lane in lanes"
      :key="lane.id"
      v-tooltip.top="cellWords(lane)"
      class="cell"
      :class="{ none: !cell(lane.id)?.clicks }"
      :style="{ '--colour': lane.colour, '--tint': tint(cell(lane.id)?.clicks ?? 0, most) }"
      :data-lane="lane.name"
      :data-figure="lane.id"
      role="img"
      tabindex="-1"
      :aria-label="cellWords(lane)"
      >{{ cell(lane.id) ? count(cell(lane.id)!.clicks) : '' }}</span
    >
    <span class="cell total"
      ><span v-tooltip.top="mayBeLow ? MAY_BE_LOW : undefined"
        >{{ mayBeLow ? '≥\u00a0' : '' }}{{ count(figures?.total.clicks ?? 0) }}</span
      ><span v-if="today" v-tooltip.top="todayWords" class="now" role="img" :aria-label="todayWords"
        >+{{ count(today) }}</span
      ></span
    >
    <span
      v-if="figures && figures.total.rate.of > 0"
      v-tooltip.top="rateWords(figures.total.rate, 'ofVisitsShown')"
      class="rate"
      :class="{ pale: !enough }"
      data-figure="rate"
      role="img"
      tabindex="-1"
      :aria-label="rateWords(figures.total.rate, 'ofVisitsShown')"
    >
      <RateWhisker
        v-if="isEnough(figures.total.rate)"
        :rate="figures.total.rate"
        :widest="widestRate"
      /><span>{{ rateText(figures.total.rate) }}</span>
    </span>
  </div>
</template>

<style scoped>
.figures {
  display: grid;
  grid-template-columns: var(--columns);
  align-items: stretch;
  margin-left: 20px;
  border-top: 1px solid var(--line);
}
.cell {
  display: grid;
  align-items: center;
  justify-items: end;
  padding: 0 8px 0 6px;
  background: color-mix(in srgb, var(--colour, transparent) var(--tint, 0%), transparent);
  border-left: 1px solid var(--line);
}
.cell.none {
  color: var(--ink-soft);
}
.cell.total {
  font-weight: 700;
  border-left: 2px solid var(--line-strong);
  background: none;
  align-content: center;
}
.now {
  font-weight: 400;
  font-size: 0.72rem;
  color: var(--ink-soft);
}
.rate {
  display: flex;
  align-items: center;
  gap: 8px;
  padding-left: 14px;
}
.rate.pale {
  color: var(--ink-soft);
}
@media (max-width: 1080px) {
  .figures {
    grid-template-columns: 62px minmax(90px, 1fr);
  }
  .cell:not(.total) {
    display: none;
  }
}
@media (max-width: 720px) {
  .figures {
    grid-template-columns: 54px;
    margin: 0;
  }
  .rate {
    display: none;
  }
}
</style>
