<script setup lang="ts">
import { computed } from 'vue'
import type { ReadingsView } from '@/api/client'
import { counted, percent } from '@/figures'
import { UNTAGGED, type Lane } from '@/sourceColours'
import { strongestButton } from './strongest'

/** What the lanes below say, in a sentence: the first thing one wants to know. */
const props = defineProps<{ view: ReadingsView; lanes: Lane[] }>()

/** The honest share of what stays unknown is always on screen. */
const untagged = computed(() => {
  const visits = props.view.total.visits
  return visits ? (props.view.bySource[UNTAGGED]?.visits ?? 0) / visits : undefined
})
const strongest = computed(() => strongestButton(props.view, props.lanes))
</script>

<template>
  <div class="words">
    <p class="lead">
      <template v-if="view.total.visits === 0">No visits in this time yet.</template>
      <template v-else-if="view.missing">
        {{ counted(view.total.visits, 'visit') }} so far. {{ view.missing }} more until rates say anything.
      </template>
      <template v-else>
        {{ counted(view.total.visits, 'visit') }}; {{ percent(view.total.clickThrough.rate) }} of them pressed
        something.
      </template>
    </p>
    <p v-if="strongest" class="soft">
      Pressed most: <strong>{{ strongest.title }}</strong>, {{ counted(strongest.clicks, 'time') }},
      {{ strongest.from }}.
    </p>
    <p v-if="untagged !== undefined" class="soft">Untagged: {{ percent(untagged) }} of visits.</p>
    <p v-else-if="view.total.visits === 0" class="soft">
      Put the page’s address for each place into that place, under Sources, and this fills up by itself.
    </p>
  </div>
</template>

<style scoped>
.words {
  max-width: 34rem;
  display: grid;
  gap: 6px;
}
.lead {
  font: 600 1.35rem/1.2 var(--font-head);
  letter-spacing: -0.015em;
}
strong {
  color: var(--ink);
}
</style>
