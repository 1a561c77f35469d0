<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { useId } from 'vue'
import type { KeptDestination } from '@/api/client'
import FieldText from '@/fields/FieldText.vue'
import ToolButton from '@/fields/ToolButton.vue'
import { tomorrowAtNine, toMoment, toWallClock } from '@/fields/zonedTime'
import { useZone } from '@/shell/useZone'

/** Windows in which a destination leads somewhere else, by the clocks of the workspace. */
type Swap = NonNullable<KeptDestination['details']['swaps']>[number]
const swaps = defineModel<Swap[]>({ required: true })
const zone = useZone()
const id = useId()

const set = (i: number, change: Partial<Swap>) =>
  (swaps.value = swaps.value.map((swap, at) => (at === i ? { ...swap, ...change } : swap)))
const add = () => (swaps.value = [...swaps.value, { from: tomorrowAtNine(zone.value), address: '' }])
const typed = (event: Event) => toMoment((event.target as HTMLInputElement).value || undefined, zone.value)
/** One without a beginning is none; it stays as it was until another is typed. */
const setFrom = (i: number, from?: string) => from && set(i, { from })
</script>

<template>
  <section :aria-labelledby="`${id}-title`">
    <h3 :id="`${id}-title`">{{ $t('shelf.leadsElsewhere') }}</h3>
    <p v-if="!swaps.length" class="soft">{{ $t('shelf.leadsElsewhereSays') }}</p>
    <ul v-else>
      <li v-for="(swap, i) in swaps" :key="i">
        <div class="line">
          <label :for="`${id}-${i}-from`">{{ $t('fields.from') }}</label>
          <InputText
            :id="`${id}-${i}-from`"
            type="datetime-local"
            :model-value="toWallClock(swap.from, zone)"
            @change="setFrom(i, typed($event))"
          />
          <ToolButton
            :icon="X"
            :label="$t('shelf.takeSwapAway', { n: i + 1 })"
            @click="swaps = swaps.filter((_, at) => at !== i)"
          />
        </div>
        <div class="line">
          <label :for="`${id}-${i}-to`">{{ $t('fields.until') }}</label>
          <InputText
            :id="`${id}-${i}-to`"
            type="datetime-local"
            :model-value="toWallClock(swap.to, zone)"
            @change="set(i, { to: typed($event) })"
          />
          <span v-if="!swap.to" class="soft small">{{ $t('shelf.forGood') }}</span>
        </div>
        <FieldText
          :label="$t('shelf.leadsThenTo')"
          inputmode="url"
          :model-value="swap.address"
          @update:model-value="set(i, { address: $event })"
        />
      </li>
    </ul>
    <p v-if="swaps.length" class="soft small">
      {{ $t('fields.byTheClocksOf', { zone: zone.replaceAll('_', ' ') }) }}
    </p>
    <Button size="small" severity="secondary" @click="add">
      <Plus aria-hidden="true" /> {{ $t('shelf.addSwap') }}
    </Button>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 8px;
  justify-items: start;
}
h3,
p {
  margin: 0;
}
h3 {
  font-size: 0.95rem;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  width: 100%;
}
li {
  display: grid;
  gap: 8px;
  padding: 10px 0;
  border-top: 1px solid var(--line);
}
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
.line label {
  width: 3rem;
  font-size: 0.87rem;
  color: var(--ink-soft);
}
.line .tool {
  margin-left: auto;
}
svg {
  width: 14px;
  height: 14px;
}
</style>
