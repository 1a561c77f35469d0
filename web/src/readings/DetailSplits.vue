<script setup lang="ts">
import { computed } from 'vue'
import type { BlockDetail } from '@/api/client'
import { count, isEnough, percent } from '@/figures'
import { formatsOf, t } from '@/i18n'
import type { Lane } from '@/sourceColours'
import { DEVICES } from './devices'
import RateWhisker from './RateWhisker.vue'

type Figures = BlockDetail['total']

/** A button or a source by where they come from, on what, and on which day of the week. */
const props = defineProps<{
  view: Pick<BlockDetail, 'devices' | 'weekdays'>
  lanes?: Lane[]
  bySource?: Record<string, Figures>
}>()

const weekdays = Array.from({ length: 7 }, (_, day) =>
  new Intl.DateTimeFormat(formatsOf(), { weekday: 'long', timeZone: 'UTC' }).format(
    Date.UTC(2024, 0, 1 + day),
  ),
)
const lists = computed(() => [
  {
    id: 'sources',
    title: t('readings.from_'),
    lines: (props.lanes ?? [])
      .filter(({ id }) => props.bySource?.[id])
      .map(({ id, name, colour }) => ({ name, colour, figures: props.bySource![id]! })),
  },
  {
    id: 'devices',
    title: t('readings.devices'),
    lines: props.view.devices.map(({ device, figures }) => ({
      name: DEVICES[device],
      colour: undefined,
      figures,
    })),
  },
  {
    id: 'weekdays',
    title: t('readings.weekdays'),
    lines: props.view.weekdays.map((figures, day) => ({ name: weekdays[day]!, colour: undefined, figures })),
  },
])
const widest = computed(() =>
  Math.max(
    0.02,
    ...lists.value.flatMap(({ lines }) =>
      lines.filter(({ figures }) => figures.rate.of >= 30).map(({ figures }) => figures.rate.interval.high),
    ),
  ),
)
</script>

<template>
  <section class="lists" :aria-label="$t('readings.splits')">
    <table v-for="list in lists.filter(({ lines }) => lines.length)" :key="list.id">
      <thead>
        <tr>
          <th scope="col">{{ list.title }}</th>
          <th scope="col">{{ $t('readings.clicks') }}</th>
          <th scope="col">{{ $t('readings.rate') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="line in list.lines" :key="line.name">
          <th scope="row" :style="{ '--colour': line.colour }" :class="{ coloured: line.colour }">
            {{ line.name }}
          </th>
          <td>{{ count(line.figures.clicks) }}</td>
          <td class="rate">
            <span v-if="isEnough(line.figures.rate)">
              <RateWhisker :rate="line.figures.rate" :widest="widest" />
              {{ percent(line.figures.rate.rate) }}
            </span>
            <span v-else class="soft">{{ $t('readings.tooFew') }}</span>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.lists {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(19rem, 100%), 1fr));
  gap: 16px 24px;
  align-items: start;
  margin-top: 28px;
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
}
th:first-child {
  text-align: left;
  font-weight: 400;
}
thead th,
thead th:first-child {
  font-size: 0.84rem;
  font-weight: 600;
  border-top: 0;
}
.coloured::before {
  content: '';
  display: inline-block;
  width: 10px;
  height: 10px;
  margin-right: 7px;
  background: var(--colour);
}
.rate span {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  white-space: nowrap;
}
</style>
