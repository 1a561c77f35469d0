<script setup lang="ts">
import { computed } from 'vue'
import type { ReadingsView } from '@/api/client'
import { count } from '@/figures'
import type { Lane } from '@/sourceColours'
import { fromSource } from './fromSource'

/** Which times visitors asked for, by the source they came from, and how many were agreed to. */
const props = defineProps<{ view: ReadingsView; lanes: Lane[] }>()
const rows = computed(() => props.view.asked.map((asked) => fromSource(asked, props.lanes)))
</script>

<template>
  <section v-if="rows.length" aria-labelledby="asked-for-title">
    <h2 id="asked-for-title">{{ $t('readings.timesAskedFor') }}</h2>
    <p class="soft by-source-lead">{{ $t('readings.onThisPageByWhere') }}</p>
    <table class="by-source">
      <thead>
        <tr>
          <th scope="col">{{ $t('readings.source') }}</th>
          <th scope="col">{{ $t('readings.askedFor') }}</th>
          <th scope="col">{{ $t('readings.agreedTo') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.source">
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
