<script setup lang="ts">
import { computed } from 'vue'
import type { ReadingsView } from '@/api/client'
import { count } from '@/figures'
import { t } from '@/i18n'
import type { Lane } from '@/sourceColours'

/** What visitors paid and which times they asked for, by the source they came from; each currency by itself. */
const props = defineProps<{ view: ReadingsView; lanes: Lane[] }>()
function named<From extends { source: string }>(from: From) {
  const lane = props.lanes.find(({ id }) => id === from.source)
  const name = lane?.name ?? (from.source.replace(/^[a-z]+:/, '') || t('common.untagged'))
  return { ...from, name, colour: lane?.colour ?? 'var(--line-strong)' }
}
const rows = computed(() => props.view.taken.map(named))
const asked = computed(() => props.view.asked.map(named))
</script>

<template>
  <section v-if="rows.length" aria-labelledby="came-in-title">
    <h2 id="came-in-title">{{ $t('readings.whatCameIn') }}</h2>
    <p class="soft by-source-lead">{{ $t('readings.paidLessGivenBack') }}</p>
    <table class="by-source">
      <thead>
        <tr>
          <th scope="col">{{ $t('readings.source') }}</th>
          <th scope="col">{{ $t('readings.payments') }}</th>
          <th scope="col">{{ $t('readings.cameIn') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="`${row.source} ${row.currency}`">
          <th scope="row" :style="{ '--colour': row.colour }">{{ row.name }}</th>
          <td>{{ count(row.times) }}</td>
          <td>
            <strong>{{ row.shown }}</strong>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
  <section v-if="asked.length" aria-labelledby="asked-for-title">
    <h2 id="asked-for-title">{{ $t('readings.timesAskedFor') }}</h2>
    <table class="by-source asked-for">
      <thead>
        <tr>
          <th scope="col">{{ $t('readings.source') }}</th>
          <th scope="col">{{ $t('readings.askedFor') }}</th>
          <th scope="col">{{ $t('readings.agreedTo') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in asked" :key="row.source">
          <th scope="row" :style="{ '--colour': row.colour }">{{ row.name }}</th>
          <td>
            <strong>{{ count(row.asked) }}</strong>
          </td>
          <td>{{ count(row.agreed) }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.asked-for {
  margin-top: 10px;
}
</style>
