<script setup lang="ts">
import { computed } from 'vue'
import type { ReadingsView } from '@/api/client'
import { count } from '@/figures'
import type { Lane } from '@/sourceColours'
import { fromSource } from './fromSource'

/** What visitors paid, by the source they came from; each currency by itself. */
const props = defineProps<{ view: ReadingsView; lanes: Lane[] }>()
const rows = computed(() => props.view.taken.map((taken) => fromSource(taken, props.lanes)))
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
</template>
