<script setup lang="ts">
import { computed } from 'vue'
import type { ReadingsView } from '@/api/client'
import { counted, percent } from '@/figures'
import { EVIDENCE } from './places'

/** How we know where visits came from: the share of each kind of evidence, and of none. */
const props = defineProps<{ coverage: ReadingsView['coverage'] }>()

const visits = computed(() => props.coverage.reduce((sum, each) => sum + each.visits, 0))
const parts = computed(() =>
  props.coverage.map((each) => ({
    ...each,
    ...(EVIDENCE[each.by] ?? { label: each.by, says: '' }),
    share: visits.value ? each.visits / visits.value : 0,
  })),
)
const known = computed(() => 1 - (parts.value.find(({ by }) => by === 'untagged')?.share ?? 0))
</script>

<template>
  <section v-if="visits" class="coverage" aria-labelledby="coverage-title">
    <h2 id="coverage-title">
      {{ $t('sources.ofWeKnowWhereCame', { visits: counted(visits, 'visit'), percent: percent(known) }) }}
    </h2>
    <div class="bar" aria-hidden="true">
      <span v-for="part in parts" :key="part.by" :class="part.by" :style="{ flexGrow: part.visits }"></span>
    </div>
    <ul>
      <li v-for="part in parts" :key="part.by" v-tooltip.bottom="part.says">
        <span class="key" :class="part.by" aria-hidden="true"></span>{{ part.label }}
        <strong>{{ percent(part.share) }}</strong>
        <span class="visually-hidden">: {{ counted(part.visits, 'visit') }}. {{ part.says }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.coverage {
  display: grid;
  gap: 8px;
}
h2 {
  font-size: 1rem;
}
.bar {
  display: flex;
  gap: 2px;
  height: 12px;
}
.bar span {
  flex-basis: 0;
}
ul {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  list-style: none;
  margin: 0;
  padding: 0;
  font-size: 0.87rem;
  color: var(--ink-soft);
}
li {
  cursor: default;
}
strong {
  color: var(--ink);
}
.key {
  display: inline-block;
  width: 10px;
  height: 10px;
  margin-right: 6px;
}
.tag {
  background: var(--accent);
}
.campaign {
  background: color-mix(in srgb, var(--accent) 72%, var(--surface));
}
.referrer {
  background: color-mix(in srgb, var(--accent) 50%, var(--surface));
}
.app {
  background: color-mix(in srgb, var(--accent) 30%, var(--surface));
}
.untagged {
  background: repeating-linear-gradient(45deg, var(--line-strong) 0 2px, var(--sunk) 2px 6px);
}
</style>
