<script setup lang="ts">
import { computed } from 'vue'
import type { ReadingsView } from '@/api/client'
import { count, counted } from '@/figures'
import { t } from '@/i18n'

/** Visits by day as a line that prints sharp. */
const props = defineProps<{ days: ReadingsView['days'] }>()

const [WIDTH, HEIGHT] = [700, 110]
const most = computed(() => Math.max(1, ...props.days.map(({ visits }) => visits)))
const points = computed(() =>
  props.days
    .map(
      ({ visits }, i) =>
        `${(WIDTH * i) / Math.max(1, props.days.length - 1)},${HEIGHT * (1 - visits / most.value)}`,
    )
    .join(' '),
)
const label = computed(() => {
  const top = props.days.find(({ visits }) => visits === most.value)
  return t('readings.lineChartOf', {
    days: counted(props.days.length, 'day'),
    visits: counted(top ? most.value : 0, 'visit'),
    on: top?.date ?? props.days[0]?.date,
  })
})
</script>

<template>
  <svg :viewBox="`-2 -16 ${WIDTH + 4} ${HEIGHT + 36}`" role="img" :aria-label="label">
    <line x1="0" :x2="WIDTH" y1="0" y2="0" class="grid" />
    <line x1="0" :x2="WIDTH" :y1="HEIGHT" :y2="HEIGHT" class="axis" />
    <polyline :points="points" />
    <text x="0" y="-4">{{ count(most) }}</text>
    <text x="0" :y="HEIGHT + 15">{{ days[0]?.date }}</text>
    <text :x="WIDTH" :y="HEIGHT + 15" text-anchor="end">{{ days.at(-1)?.date }}</text>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  fill: none;
}
.grid {
  stroke: var(--line);
}
.axis {
  stroke: var(--line-strong);
}
polyline {
  stroke: var(--accent);
  stroke-width: 2;
}
text {
  fill: var(--ink-soft);
  font-size: 11px;
}
</style>
