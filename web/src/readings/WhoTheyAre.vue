<script setup lang="ts">
import { computed } from 'vue'
import type { ReadingsView } from '@/api/client'
import { count, isEnough, percent } from '@/figures'
import { formatsOf, t } from '@/i18n'
import { DEVICES } from './devices'
import RateWhisker from './RateWhisker.vue'

/** Visits by what else is known of them: country, language, device, and whether an advertisement brought them. */
const props = defineProps<{ view: ReadingsView }>()

/** How many of each are shown; the rest is put together. */
const SHOWN = 8

const named = (type: 'region' | 'language', code: string) =>
  code ? (new Intl.DisplayNames(formatsOf(), { type }).of(code) ?? code) : t('readings.notKnown')

interface Line {
  name: string
  visits: number
  rate?: ReadingsView['total']['clickThrough']
}
function most(lines: Line[]): Line[] {
  const rest = lines.slice(SHOWN)
  if (rest.length < 2) return lines
  const visits = rest.reduce((sum, { visits }) => sum + visits, 0)
  return [...lines.slice(0, SHOWN), { name: t('readings.nOthers', { n: rest.length }), visits }]
}
const lists = computed(() => {
  const { countries, languages, devices, payment } = props.view
  const traits = (values: typeof countries, name: (value: string) => string): Line[] =>
    values.map(({ value, visits, clickThrough }) => ({ name: name(value), visits, rate: clickThrough }))
  const all: { id: string; title: string; lines: Line[] }[] = [
    {
      id: 'countries',
      title: t('readings.countries'),
      lines: most(traits(countries, (code) => named('region', code))),
    },
    {
      id: 'languages',
      title: t('readings.languages'),
      lines: most(traits(languages, (code) => named('language', code))),
    },
    {
      id: 'devices',
      title: t('readings.devices'),
      lines: devices
        .filter(({ visits }) => visits)
        .map(({ device, visits }) => ({ name: DEVICES[device], visits })),
    },
    {
      id: 'payment',
      title: t('readings.payment'),
      lines: traits(payment, (value) => (value === 'paid' ? t('readings.paid') : t('readings.unpaid'))),
    },
  ]
  return all.filter(({ lines }) => lines.length > 0)
})
const visits = computed(() => Math.max(1, props.view.total.visits))
const enough = (line: Line) => line.rate && isEnough(line.rate)
</script>

<template>
  <section v-if="lists.length" aria-labelledby="who-title">
    <h2 id="who-title">{{ $t('readings.whoTheyAre') }}</h2>
    <div class="lists">
      <table v-for="list in lists" :key="list.id">
        <thead>
          <tr>
            <th scope="col">{{ list.title }}</th>
            <th scope="col">{{ $t('readings.visits') }}</th>
            <th v-if="list.lines.some(enough)" scope="col" class="rate">{{ $t('readings.pressed') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="line in list.lines" :key="line.name">
            <th scope="row">
              {{ line.name }}
              <span
                class="bar"
                aria-hidden="true"
                :style="{ width: `${(100 * line.visits) / visits}%` }"
              ></span>
            </th>
            <td>
              {{ count(line.visits) }} <small>{{ percent(line.visits / visits) }}</small>
            </td>
            <td v-if="list.lines.some(enough)" class="rate">
              <span v-if="enough(line)"
                ><RateWhisker :rate="line.rate!" :widest="1" /> {{ percent(line.rate!.rate) }}</span
              >
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="soft small">{{ $t('readings.whoSays') }}</p>
  </section>
</template>

<style scoped>
h2 {
  margin-bottom: 10px;
}
.lists {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 16px 24px;
  align-items: start;
}
table {
  border-collapse: collapse;
  border: 1px solid var(--line-strong);
  background: var(--surface);
  width: 100%;
}
th,
td {
  padding: 5px 10px;
  text-align: right;
  border-top: 1px solid var(--line);
  white-space: nowrap;
}
th:first-child {
  text-align: left;
  width: 50%;
  white-space: normal;
  font-weight: 400;
}
thead th,
thead th:first-child {
  border-top: 0;
  font-size: 0.84rem;
  font-weight: 600;
}
.bar {
  display: block;
  height: 3px;
  margin-top: 2px;
  background: var(--accent);
}
td small {
  color: var(--ink-soft);
  margin-left: 4px;
}
.rate span {
  display: inline-flex;
  gap: 6px;
  align-items: center;
}
@media (max-width: 900px) {
  .lists {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 480px) {
  .rate :deep(svg) {
    display: none;
  }
}
</style>
