<script setup lang="ts">
import { computed } from 'vue'
import type { PageState } from '@/api/client'

/** When a block shows, from a week ago to four weeks ahead, with a line for now. */
type Ribbon = PageState['ribbon']
const props = defineProps<{ ribbon: Ribbon; part: Ribbon['blocks'][string]; says: string }>()

const at = (moment: string) => {
  const [from, to] = [Date.parse(props.ribbon.from), Date.parse(props.ribbon.to)]
  return (100 * (Date.parse(moment) - from)) / (to - from)
}
const spans = computed(() =>
  props.part.spans.map(({ from = props.ribbon.from, to = props.ribbon.to }) => ({
    x: at(from),
    // However short it is, it can be seen.
    width: Math.max(1.5, at(to) - at(from)),
  })),
)
const now = computed(() => at(new Date().toISOString()))
</script>

<template>
  <svg class="ribbon" viewBox="0 0 100 12" preserveAspectRatio="none" role="img" :aria-label="says">
    <rect class="base" x="0" y="5.5" width="100" height="1" />
    <rect
      v-for="span in spans"
      :key="span.x"
      class="span"
      :x="span.x"
      y="1.5"
      :width="span.width"
      height="5"
    />
    <rect class="now" :x="now - 1.2" y="0" width="2.4" height="12" />
  </svg>
</template>

<style scoped>
.ribbon {
  display: block;
  width: 100%;
  height: 12px;
}
.base {
  fill: var(--line-strong);
}
.span {
  fill: var(--accent);
}
.now {
  fill: var(--amber);
}
</style>
