<script setup lang="ts">
import { computed } from 'vue'
import type { ReadingsView } from '@/api/client'
import { counted, percent } from '@/figures'
import { t } from '@/i18n'
import type { Lane } from '@/sourceColours'
import { visitsWords } from './changeWords'
import { spanWords } from './ranges'

/** What one wants to know first, in words: what was pressed, where people came from, whether it is going up. */
const props = defineProps<{ view: ReadingsView; lanes: Lane[] }>()

const FEW = 3
const pressed = computed(() => {
  const titles = new Map(props.view.titles.map(({ block, title }) => [block, title]))
  return [...props.view.blocks]
    .filter(({ total }) => total.clicks > 0)
    .sort((a, b) => b.total.clicks - a.total.clicks)
    .slice(0, FEW)
    .map(({ block, total }) => ({ name: titles.get(block) ?? block, said: counted(total.clicks, 'time') }))
})
const from = computed(() =>
  props.lanes
    .map(({ id, name }) => ({ name, visits: props.view.bySource[id]?.visits ?? 0 }))
    .filter(({ visits }) => visits > 0)
    .sort((a, b) => b.visits - a.visits)
    .slice(0, FEW)
    .map(({ name, visits }) => ({ name, said: percent(visits / props.view.total.visits) })),
)
const going = computed(() => {
  const { changes } = props.view
  if (props.view.tooEarly) return t('readings.tooEarly')
  if (props.view.notOver) return t('readings.notOverYet')
  if (!changes) return t('readings.notCompared')
  const { visits, from, to, withoutToday, days } = changes
  const said = [
    visitsWords(visits, days),
    t('readings.against', { visits: counted(visits.before, 'visit'), days: spanWords(from, to) }),
    ...(visits.close ? [t('readings.closeCall')] : []),
    ...(withoutToday ? [t('readings.withoutToday')] : []),
  ]
  return said.join(' ')
})
const answers = computed(() => [
  { question: t('readings.whatPressed'), list: pressed.value, none: t('readings.nothingPressed') },
  { question: t('readings.whereFrom'), list: from.value, none: t('readings.noVisits') },
])
</script>

<template>
  <dl class="answers">
    <div v-for="each in answers" :key="each.question">
      <dt>{{ each.question }}</dt>
      <dd v-if="each.list.length">
        <template v-for="(one, i) in each.list" :key="one.name"
          ><template v-if="i">, </template><strong v-if="i === 0">{{ one.name }}</strong
          ><template v-else>{{ one.name }}</template> {{ one.said }}</template
        >
      </dd>
      <dd v-else class="soft">{{ each.none }}</dd>
    </div>
    <div>
      <dt>{{ $t('readings.goingUp') }}</dt>
      <dd>{{ going }}</dd>
    </div>
  </dl>
</template>

<style scoped>
.answers {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 6px 28px;
  margin: 0 0 16px;
}
dt {
  font-size: 0.87rem;
  color: var(--ink-soft);
}
dd {
  margin: 2px 0 0;
}
@media (max-width: 900px) {
  .answers {
    grid-template-columns: 1fr;
  }
}
</style>
