<script setup lang="ts">
import { computed } from 'vue'
import type { ReadingsView } from '@/api/client'
import { count } from '@/figures'
import type { Lane } from '@/sourceColours'

/** What visitors paid, by the source they came from; each currency by itself. */
const props = defineProps<{ view: ReadingsView; lanes: Lane[] }>()
const rows = computed(() =>
  props.view.taken.map((taken) => {
    const lane = props.lanes.find(({ id }) => id === taken.source)
    return { ...taken, name: lane?.name ?? taken.source, colour: lane?.colour ?? 'var(--line-strong)' }
  }),
)
</script>

<template>
  <section v-if="rows.length" aria-labelledby="came-in-title">
    <h2 id="came-in-title">{{ $t('readings.whatCameIn') }}</h2>
    <p class="soft">{{ $t('readings.paidLessGivenBack') }}</p>
    <table>
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

<style scoped>
p {
  margin: 2px 0 10px;
}
table {
  border-collapse: collapse;
  border: 1px solid var(--line-strong);
  background: var(--surface);
  width: min(100%, 30rem);
}
th,
td {
  padding: 6px 10px;
  text-align: end;
  border-bottom: 1px solid var(--line);
  font-variant-numeric: tabular-nums;
}
thead th {
  font-size: 0.82rem;
  color: var(--ink-soft);
}
th:first-child {
  text-align: start;
}
tbody th {
  font-weight: 500;
  border-left: 4px solid var(--colour);
}
</style>
