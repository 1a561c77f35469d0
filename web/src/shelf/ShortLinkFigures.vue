<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { linkReadingsQuery } from '@/api/queries'
import { count, counted } from '@/figures'
import { t } from '@/i18n'
import DailyClicks from './DailyClicks.vue'
import { OUTCOMES } from './shortLinks'

/** How often a short link was pressed in the last 28 days, where from, and where to. */
const props = defineProps<{ link: string }>()
const { data: reading } = useQuery(linkReadingsQuery(() => props.link))

const places = computed(() => {
  if (!reading.value) return []
  const rows = reading.value.unlisted.map((each) => ({ name: each.name, clicks: each.figures.clicks }))
  const untagged = reading.value.bySource.untagged?.clicks ?? 0
  if (untagged) rows.push({ name: 'untagged', clicks: untagged })
  return rows
})
const outcomes = computed(() => (reading.value?.blocks ?? []).filter((each) => each.total.clicks > 0))
const devices = computed(() => (reading.value?.devices ?? []).filter((each) => each.visits > 0))
const leftOut = computed(() => (reading.value?.leftOut ?? []).reduce((sum, each) => sum + each.clicks, 0))
const under = computed(() => {
  const onDevices = devices.value.map((each) =>
    t('shelf.visitsOnA', { visits: counted(each.visits, 'visit'), device: each.device }),
  )
  const ways = outcomes.value.map((each) => `${count(each.total.clicks)} ${OUTCOMES[each.block]}`)
  const leftAside = ways.length === 0 || (ways.length === 1 && outcomes.value[0]?.block === 'destination')
  return [
    onDevices.length > 0 ? t('shelf.onDevices', { devices: onDevices.join(', ') }) : '',
    leftAside ? '' : t('shelf.led', { ways: ways.join(', ') }),
    t('shelf.moreAreKept', { n: count(leftOut.value) }, leftOut.value),
  ]
    .filter(Boolean)
    .join(' ')
})
const share = (clicks: number) => `${(100 * clicks) / Math.max(1, reading.value?.total.clicks ?? 0)}%`
</script>

<template>
  <section v-if="reading" class="figures" :aria-label="$t('shelf.figuresOfTheLast28')">
    <p class="headline">
      <i18n-t keypath="shelf.clicksIn28Days" :plural="reading.total.clicks" scope="global">
        <template #n
          ><strong>{{ count(reading.total.clicks) }}</strong></template
        >
      </i18n-t>
      <span class="soft">{{
        $t('shelf.byVisitors', { n: count(reading.total.visitors) }, reading.total.visitors)
      }}</span>
    </p>
    <DailyClicks :daily="reading.days.map((day) => day.clicks)" :height="44" />
    <p v-if="!reading.total.clicks" class="soft">
      {{ $t('shelf.openTheAddressOnce') }}
    </p>
    <dl v-if="places.length">
      <template v-for="place in places" :key="place.name">
        <dt>{{ place.name }}</dt>
        <dd>
          <span
            class="bar"
            :class="{ untagged: place.name === 'untagged' }"
            :style="{ width: share(place.clicks) }"
          ></span
          ><span class="number">{{ count(place.clicks) }}</span>
        </dd>
      </template>
    </dl>
    <p class="soft small">{{ under }}</p>
  </section>
</template>

<style scoped>
.figures {
  display: grid;
  gap: 8px;
}
.headline {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  column-gap: 0.3em;
}
.headline strong {
  font-family: var(--font-head);
  font-size: 1.9rem;
  line-height: 1;
}
dl {
  display: grid;
  grid-template-columns: minmax(5rem, max-content) 1fr;
  gap: 3px 12px;
  margin: 4px 0;
}
dt {
  overflow-wrap: anywhere;
}
dd {
  margin: 0;
  display: flex;
  align-items: center;
  gap: 8px;
}
.bar {
  height: 10px;
  min-width: 2px;
  max-width: calc(100% - 4rem);
  background: var(--accent);
}
.bar.untagged {
  background: repeating-linear-gradient(45deg, var(--line-strong) 0 2px, var(--sunk) 2px 6px);
}
.number {
  font-weight: 600;
}
</style>
