<script setup lang="ts">
import type { components } from '@/api/generated/schema'
import { count, interval, isEnough, percent } from '@/figures'
import type { Lane } from '@/sourceColours'

/** Clicks of one row by source, in a list: the lanes, where there is no room for lanes. */
defineProps<{ figures: components['schemas']['BlockReading']; lanes: Lane[] }>()
</script>

<template>
  <div>
    <h3 class="from-title">{{ $t('arrange.clicksBySource') }}</h3>
    <p class="soft small">{{ $t('arrange.inBracketsWhereTheShare') }}</p>
    <dl class="from">
      <div v-for="lane in lanes" :key="lane.id">
        <dt><span class="swatch" :style="{ background: lane.colour }"></span>{{ lane.name }}</dt>
        <dd>
          <small v-if="isEnough(figures.bySource[lane.id]?.rate ?? { of: 0 })" class="soft">
            {{
              $t('arrange.ofVisits', {
                percent: percent(figures.bySource[lane.id]!.rate.rate),
                interval: interval(figures.bySource[lane.id]!.rate),
              })
            }}
          </small>
          {{ count(figures.bySource[lane.id]?.clicks ?? 0) }}
        </dd>
      </div>
    </dl>
  </div>
</template>

<style scoped>
.from-title {
  font: 600 0.9rem var(--font-text);
  letter-spacing: 0;
  margin-bottom: 5px;
}
.from {
  margin: 0;
  border-top: 1px solid var(--line);
}
.from div {
  display: flex;
  justify-content: space-between;
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}
.from dd {
  margin: 0;
  font-weight: 600;
}
.from small {
  font-weight: 400;
  margin-right: 6px;
}
.swatch {
  display: inline-block;
  width: 10px;
  height: 10px;
  border-radius: 50%;
  margin-right: 9px;
}
</style>
