<script setup lang="ts">
import { Check, CircleDashed, TriangleAlert } from '@lucide/vue'
import { computed } from 'vue'
import type { DomainView } from '@/api/client'
import { stepsOf } from './domainWords'

/** What has to be so until a domain is in use, and what of it is. */
const { domain } = defineProps<{ domain: DomainView }>()
const steps = computed(() => stepsOf(domain))
const MARKS = { done: Check, waits: CircleDashed, wrong: TriangleAlert }
</script>

<template>
  <ol>
    <li v-for="step in steps" :key="step.what" :class="step.state">
      <component :is="MARKS[step.state]" aria-hidden="true" />
      <div>
        <strong>{{ step.what }}</strong>
        <span>{{ step.says }}</span>
      </div>
    </li>
  </ol>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 4px 0;
  padding: 0;
  display: grid;
  gap: 10px;
}
li {
  display: grid;
  grid-template-columns: 24px minmax(0, 1fr);
  gap: 10px;
  align-items: start;
}
svg {
  width: 20px;
  height: 20px;
  margin-top: 1px;
  color: var(--ink-soft);
}
.done svg {
  color: var(--accent);
}
.wrong svg {
  color: var(--danger);
}
strong,
span {
  display: block;
  overflow-wrap: anywhere;
}
span {
  color: var(--ink-soft);
  font-size: 0.9rem;
}
</style>
