<script setup lang="ts">
import { computed } from 'vue'
import type { ReadingsView } from '@/api/client'
import { counted, percent } from '@/figures'
import { UNTAGGED, type Lane } from '@/sourceColours'
import TodaySoFar from '@/readings/TodaySoFar.vue'
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
      <template v-if="view.total.visits === 0">{{ $t('arrange.noVisitsInThisTime') }}</template>
      <template v-else-if="view.missing">
        {{
          $t('arrange.soFarMoreUntilRates', {
            visits: counted(view.total.visits, 'visit'),
            missing: view.missing,
          })
        }}
      </template>
      <template v-else>
        {{
          $t('arrange.ofThemPressedSomething', {
            visits: counted(view.total.visits, 'visit'),
            percent: percent(view.total.clickThrough.rate),
          })
        }}
      </template>
    </p>
    <i18n-t v-if="strongest" keypath="arrange.pressedMost" tag="p" class="soft" scope="global">
      <template #title
        ><strong>{{ strongest.title }}</strong></template
      >
      <template #times>{{ counted(strongest.clicks, 'time') }}</template>
      <template #from>{{ strongest.from }}</template>
    </i18n-t>
    <TodaySoFar v-if="view.today" class="today" :today="view.today" />
    <p v-if="untagged !== undefined" class="soft">
      {{ $t('arrange.untaggedOfVisits', { percent: percent(untagged) }) }}
    </p>
    <p v-else-if="view.total.visits === 0" class="soft">
      {{ $t('arrange.putThePagesAddress') }}
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
