<script setup lang="ts">
import type { ReadingsView } from '@/api/client'
import { count } from '@/figures'
import type { Lane } from '@/sourceColours'

/** The heads of the from lanes: each source with its colour and its visits. */
defineProps<{ lanes: Lane[]; view: ReadingsView | undefined }>()
</script>

<template>
  <div class="lane-heads">
    <div v-for="lane in lanes" :key="lane.id" class="lane-head" :style="{ '--colour': lane.colour }">
      <span class="name">{{ lane.name }}</span>
      <span class="visits">{{ count(view?.bySource[lane.id]?.visits ?? 0) }}</span>
    </div>
    <div class="lane-head total">
      <span class="name">{{ $t('arrange.clicks') }}</span><span class="visits">{{
        count(view?.total.clicks ?? 0)
      }}</span>
    </div>
    <div class="lane-head rate">
      <span class="name">{{ $t('arrange.rateOfVisitsShown') }}</span>
    </div>
  </div>
</template>

<style scoped>
.lane-heads {
  display: grid;
  grid-template-columns: var(--columns);
  align-items: end;
  padding: 0 0 8px 20px;
}
.lane-head {
  display: grid;
  gap: 4px;
  padding: 0 2px;
  text-align: right;
  font-size: 0.72rem;
  line-height: 1.2;
  overflow-wrap: break-word;
}
.lane-head .name {
  font-weight: 600;
}
.lane-head .visits {
  color: var(--ink-soft);
  border-top: 4px solid var(--colour, transparent);
  padding-top: 4px;
}
.lane-head.rate {
  text-align: left;
  padding-left: 16px;
  align-self: end;
  padding-bottom: 21px;
}
@media (max-width: 1080px) {
  .lane-heads {
    grid-template-columns: 62px minmax(90px, 1fr);
  }
  .lane-head:not(.total, .rate) {
    display: none;
  }
}
@media (max-width: 720px) {
  .lane-heads {
    grid-template-columns: 54px;
    padding: 0 0 8px;
  }
  .lane-head.rate {
    display: none;
  }
}
</style>
