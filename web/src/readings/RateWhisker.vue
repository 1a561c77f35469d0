<script setup lang="ts">
import { computed } from 'vue'
import type { Rate } from '@/api/client'

/** A rate as a dot on its 95 % interval. */
const props = defineProps<{
  rate: Rate
  /** The rate at the right edge, so that whiskers in a column can be compared. */
  widest: number
}>()

const WIDTH = 76
const x = (share: number) => Math.min(1, share / props.widest) * (WIDTH - 8) + 4
const low = computed(() => x(props.rate.interval.low))
const high = computed(() => x(props.rate.interval.high))
const at = computed(() => x(props.rate.rate))
</script>

<template>
  <svg class="whisker" :width="WIDTH" height="16" aria-hidden="true">
    <line x1="4" :x2="WIDTH - 4" y1="8" y2="8" class="scale" />
    <path :d="`M${low} 4v8M${low} 8H${high}M${high} 4v8`" class="range" />
    <circle :cx="at" cy="8" r="3.4" class="dot" />
  </svg>
</template>

<style scoped>
.whisker {
  flex: none;
  fill: none;
}
.scale {
  stroke: var(--line);
}
.range {
  stroke: var(--ink-soft);
  stroke-width: 1.5;
}
.dot {
  fill: var(--accent);
}
</style>
