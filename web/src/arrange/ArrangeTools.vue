<script setup lang="ts">
import Button from 'primevue/button'
import Select from 'primevue/select'
import { computed } from 'vue'
import type { Block, ReadingsView } from '@/api/client'
import type { KindEntry } from '@/kinds/registry'
import { usePageStore } from '@/page/pageStore'
import { RANGES } from '@/readings/ranges'
import AddMenu from './AddMenu.vue'
import PasteLine from './PasteLine.vue'
import TodayLine from './TodayLine.vue'
import { OVERS, useRibbon } from './useRibbon'

/** What stands above the strip and the lanes: the paste line, another block, the range of the figures. */
const range = defineModel<string>('range', { required: true })
defineProps<{ seeing: boolean; view?: ReadingsView }>()
const emit = defineEmits<{ pasted: [block: Block]; add: [kind: KindEntry]; see: [] }>()
const page = usePageStore()
const { over } = useRibbon()
/** Whether anything is drawn in the when lane. */
const isTimed = computed(() => !!page.document?.when || page.document?.blocks.some(({ when }) => when))
</script>

<template>
  <div class="bench">
    <div class="paste-slot">
      <TodayLine :view="view" />
      <PasteLine v-if="page.loaded" @added="emit('pasted', $event)" />
    </div>
    <div class="lane-tools">
      <h1 class="visually-hidden">{{ $t('arrange.arrange') }}</h1>
      <AddMenu @add="emit('add', $event)" />
      <Select
        v-model="range"
        :options="RANGES"
        option-value="value"
        option-label="label"
        :aria-label="$t('arrange.clicksIn')"
        size="small"
      />
      <Select
        v-if="seeing || isTimed"
        v-model="over"
        :options="OVERS"
        option-value="value"
        option-label="label"
        :aria-label="$t('arrange.ribbonOver')"
        size="small"
      >
        <template #value
          >{{ $t('arrange.ribbonOver') }}: {{ OVERS.find(({ value }) => value === over)?.label }}</template
        >
      </Select>
      <Button
        size="small"
        severity="secondary"
        :label="$t('arrange.seenAs')"
        :aria-pressed="seeing"
        @click="emit('see')"
      />
    </div>
  </div>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template-columns: var(--gutter) var(--strip) minmax(0, 1fr);
  align-items: center;
  margin-bottom: 14px;
}
.paste-slot {
  grid-column: 2;
  grid-row: 1;
}
.lane-tools {
  grid-column: 3;
  grid-row: 1;
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 8px 12px;
  padding-left: 20px;
}
@media (max-width: 720px) {
  .bench {
    display: block;
  }
  .lane-tools {
    padding-left: var(--gutter);
  }
  /* What a visit of two minutes is for lies at a thumb’s reach. */
  .paste-slot {
    position: fixed;
    z-index: 9;
    left: 0;
    right: 0;
    bottom: calc(60px + env(safe-area-inset-bottom));
    padding: 6px 14px 10px;
    border-top: 1px solid var(--line);
    background: var(--ground);
  }
}
</style>
