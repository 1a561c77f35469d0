<script setup lang="ts">
import { computed } from 'vue'

/** Clicks of each of the last days as bars, the latest at the right. */
const props = defineProps<{ daily: number[]; height?: number }>()
const highest = computed(() => Math.max(1, ...props.daily))
const WIDTH = 4
</script>

<template>
  <svg
    class="bars"
    :viewBox="`0 0 ${daily.length * (WIDTH + 1)} 100`"
    :style="{ height: `${height ?? 24}px` }"
    preserveAspectRatio="none"
    aria-hidden="true"
  >
    <rect
      v-for="(clicks, day) in daily"
      :key="day"
      :x="day * (WIDTH + 1)"
      :y="100 - Math.max(clicks ? 6 : 2, (clicks / highest) * 100)"
      :width="WIDTH"
      :height="Math.max(clicks ? 6 : 2, (clicks / highest) * 100)"
      :class="{ none: !clicks }"
    />
  </svg>
</template>

<style scoped>
.bars {
  display: block;
  width: 100%;
}
rect {
  fill: var(--accent);
}
.none {
  fill: var(--line-strong);
  opacity: 0.5;
}
</style>
