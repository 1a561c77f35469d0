<script setup lang="ts">
import { computed } from 'vue'
import type { BlockDetail } from '@/api/client'
import { t } from '@/i18n'
import { pointOf } from './timeMarks'

/** Where a button stood, day by day, under the chart of its clicks. */
const props = defineProps<{ placements: BlockDetail['placements']; points: string[]; zone: string }>()

interface Stretch {
  place: number
  onPage: boolean
  days: number
  from: string
}
const stretches = computed(() => {
  const list: Stretch[] = []
  for (const point of props.points) {
    // What holds at the end of the day.
    const there = props.placements.filter(({ at }) => pointOf(at, 'day', props.zone) <= point).at(-1)
    const [place, onPage] = [there?.place ?? 0, there?.onPage ?? false]
    const last = list.at(-1)
    if (last?.place === place && last.onPage === onPage) last.days++
    else list.push({ place, onPage, days: 1, from: point })
  }
  return list
})
function says({ place, onPage, from, days }: Stretch) {
  const where = place ? t('readings.atPlace', { place }) : off(onPage)
  return `${where}, ${t('readings.fromDayFor', { from, n: days }, days)}`
}
const off = (onPage: boolean) => (onPage ? t('readings.besideTheBlocks') : t('readings.notOnPage'))
</script>

<template>
  <ul class="ribbon" :aria-label="$t('readings.whereItStood')">
    <li
      v-for="each in stretches"
      :key="each.from"
      v-tooltip.bottom="says(each)"
      :style="{ flexGrow: each.days }"
      :class="{ off: !each.onPage }"
    >
      <span aria-hidden="true">{{ each.place || (each.onPage ? '·' : '') }}</span>
      <span class="visually-hidden">{{ says(each) }}</span>
    </li>
  </ul>
  <p class="soft small">{{ $t('readings.ribbonSays') }}</p>
</template>

<style scoped>
/* As wide as the plot of the chart above. */
.ribbon {
  list-style: none;
  display: flex;
  gap: 2px;
  margin: 8px 22px 0 50px;
  padding: 0;
}
li {
  flex: 1 1 0;
  min-width: 0;
  overflow: hidden;
  text-align: center;
  font-size: 0.78rem;
  font-weight: 600;
  line-height: 18px;
  background: color-mix(in srgb, var(--accent) 18%, var(--surface));
  color: var(--ink);
}
li.off {
  background: repeating-linear-gradient(135deg, var(--line) 0 3px, transparent 3px 7px);
}
.small {
  margin-left: 50px;
}
</style>
