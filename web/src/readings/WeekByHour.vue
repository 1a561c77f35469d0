<script setup lang="ts">
import { computed } from 'vue'
import type { ReadingsView } from '@/api/client'
import { counted } from '@/figures'
import { formatsOf, t } from '@/i18n'

/** When people come: visits by weekday and hour, tinted; a table that can be read without its colours. */
const props = defineProps<{ view: ReadingsView }>()

/** 2024 began on a Monday. */
const dayNames = Array.from({ length: 7 }, (_, day) =>
  new Intl.DateTimeFormat(formatsOf(), { weekday: 'short', timeZone: 'UTC' }).format(
    Date.UTC(2024, 0, 1 + day),
  ),
)
const hours = Array.from({ length: 24 }, (_, hour) => hour)
const days = computed(() => dayNames.map((_, day) => props.view.week.visits.slice(24 * day, 24 * day + 24)))
const most = computed(() => Math.max(1, ...props.view.week.visits))
const busiest = computed(() => {
  const visits = Math.max(...props.view.week.visits)
  if (visits === 0) return t('readings.noVisits')
  const at = props.view.week.visits.indexOf(visits)
  const words = { day: dayNames[Math.floor(at / 24)], from: at % 24, to: (at + 1) % 24 }
  return t('readings.busiest', { ...words, visits: counted(visits, 'visit') })
})
</script>

<template>
  <section aria-labelledby="week-title">
    <h2 id="week-title">{{ $t('readings.whenTheyCome') }}</h2>
    <p>{{ busiest }}</p>
    <div class="scroller" tabindex="0" role="region" :aria-label="$t('readings.visitsByHour')">
      <table>
        <thead>
          <tr>
            <td></td>
            <th v-for="hour in hours" :key="hour" scope="col">{{ hour }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(day, d) in days" :key="d">
            <th scope="row">{{ dayNames[d] }}</th>
            <td v-for="(visits, hour) in day" :key="hour" :style="{ '--tint': `${(36 * visits) / most}%` }">
              {{ visits || '' }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
h2 {
  margin-bottom: 6px;
}
.scroller {
  overflow-x: auto;
  border: 1px solid var(--line-strong);
  border-radius: 6px;
  background: var(--surface);
}
table {
  border-collapse: collapse;
  width: 100%;
  font-size: 0.78rem;
}
th,
td {
  padding: 4px 6px;
  min-width: 30px;
  text-align: right;
}
thead th {
  font-weight: 500;
  color: var(--ink-soft);
}
tbody th {
  position: sticky;
  left: 0;
  text-align: left;
  background: var(--surface);
}
tbody td {
  background: color-mix(in srgb, var(--accent) var(--tint, 0%), transparent);
  color: var(--ink);
}
</style>
