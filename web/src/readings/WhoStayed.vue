<script setup lang="ts">
import { computed } from 'vue'
import type { ReadingsView } from '@/api/client'
import { count, counted, isEnough, percent, rateWords } from '@/figures'
import type { Lane } from '@/sourceColours'
import RateWhisker from './RateWhisker.vue'

/** Who left an e-mail address and confirmed it: which source brings people who stay. */
const props = defineProps<{ view: ReadingsView; lanes: Lane[] }>()
const rows = computed(() =>
  props.view.stayed.flatMap(({ source, rate }) => {
    const lane = props.lanes.find(({ id }) => id === source)
    return lane ? [{ ...lane, rate }] : []
  }),
)
const people = computed(() => rows.value.reduce((sum, { rate }) => sum + rate.taken, 0))
const enough = (of: number) => isEnough({ of })
const widest = computed(() =>
  Math.max(0.02, ...rows.value.filter(({ rate }) => enough(rate.of)).map(({ rate }) => rate.interval.high)),
)
</script>

<template>
  <section v-if="rows.length" aria-labelledby="stayed-title">
    <h2 id="stayed-title">{{ $t('readings.whoStayed') }}</h2>
    <p class="soft by-source-lead">
      {{ $t('readings.confirmedTheirAddress', { people: counted(people, 'person') }) }}
    </p>
    <table class="by-source">
      <thead>
        <tr>
          <th scope="col">{{ $t('readings.source') }}</th>
          <th scope="col">{{ $t('readings.visits') }}</th>
          <th scope="col">{{ $t('readings.signedUp') }}</th>
          <th scope="col" class="rate">{{ $t('readings.rateOfVisits') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.id">
          <th scope="row" :style="{ '--colour': row.colour }">{{ row.name }}</th>
          <td>{{ count(row.rate.of) }}</td>
          <td>
            <strong>{{ count(row.rate.taken) }}</strong>
          </td>
          <td class="rate">
            <span v-if="enough(row.rate.of)" :title="rateWords(row.rate, 'ofVisits')"
              ><RateWhisker :rate="row.rate" :widest="widest" /> {{ percent(row.rate.rate) }}</span
            >
            <small v-else>{{ $t('readings.tooFewVisits') }}</small>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
