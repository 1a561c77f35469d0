<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import type { TrialView } from '@/api/client'
import { momentWords } from '@/arrange/stateWords'
import { count, percent } from '@/figures'
import { t } from '@/i18n'
import RateWhisker from '@/readings/RateWhisker.vue'
import { useSession } from '@/session'
import { isKnown, planWords, signed, variantName, verdictWords } from './trialWords'

/** One trial: its answer first, then what it rests on, then what to do. */
const props = defineProps<{ trial: TrialView; title: string; busy: boolean }>()
const emit = defineEmits<{ choose: [variant: number]; end: [] }>()
const zone = useSession().me?.zone ?? 'UTC'

const rows = computed(() =>
  props.trial.arms.map((arm, at) => ({
    at,
    name: variantName(props.trial, at),
    rate: arm.rate,
    against: againstWords(arm.against),
    lastWeek: arm.lastWeek ? againstWords(arm.lastWeek) : at ? t('trials.tooFewYet') : '–',
    best: props.trial.result.verdict === 'better' && at === props.trial.result.best,
  })),
)
const widest = computed(() =>
  Math.max(0.02, ...rows.value.map(({ rate }) => (rate.of ? rate.interval.high : 0))),
)
function againstWords(against?: { low: number; high: number }) {
  if (!against) return '–'
  if (!isKnown(against)) return t('trials.tooFewYet')
  return t('trials.between', { low: signed(against.low), high: signed(against.high) })
}
const days = computed(() =>
  Math.round((Date.parse(props.trial.until) - Date.parse(props.trial.beganAt)) / 86_400_000),
)
const state = computed(() => {
  const { runs, ending, endedAt, chosen, until } = props.trial
  if (runs) return t('trials.runsUntil', { until: momentWords(until, zone) })
  const when = momentWords(endedAt ?? until, zone)
  if (ending === 'chosen') return t('trials.wasChosen', { name: variantName(props.trial, chosen), when })
  if (ending === 'changed') return t('trials.wasChanged', { when })
  return t('trials.wasOver', { when })
})
const mayChoose = computed(() => props.trial.ending === undefined || props.trial.ending === 'ended')
</script>

<template>
  <article class="trial" :class="{ runs: trial.runs }">
    <h2>{{ title }}</h2>
    <p class="soft">{{ state }}</p>
    <p class="verdict" :class="trial.result.verdict">{{ verdictWords(trial, zone) }}</p>
    <div class="scroller" tabindex="0" role="region" :aria-label="title">
      <table>
        <thead>
          <tr>
            <th scope="col">{{ $t('trials.variant') }}</th>
            <th scope="col">{{ $t('readings.visits') }}</th>
            <th scope="col">{{ $t('trials.pressedIt') }}</th>
            <th scope="col">{{ $t('readings.rate') }}</th>
            <th scope="col">{{ $t('trials.againstAsItIs') }}</th>
            <th scope="col">{{ $t('trials.lastWeek') }}</th>
            <th v-if="mayChoose" scope="col">
              <span class="visually-hidden">{{ $t('trials.putInPlace') }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.at" :class="{ best: row.best }">
            <th scope="row">{{ row.name }}</th>
            <td>{{ count(row.rate.of) }}</td>
            <td>{{ count(row.rate.taken) }}</td>
            <td>
              <span v-if="row.rate.of" class="whole">
                <RateWhisker :rate="row.rate" :widest="widest" /> {{ percent(row.rate.rate) }}
              </span>
            </td>
            <td>{{ row.against }}</td>
            <td>{{ row.lastWeek }}</td>
            <td v-if="mayChoose">
              <Button
                v-if="row.at > 0"
                size="small"
                :severity="row.best ? undefined : 'secondary'"
                :label="$t('trials.putInPlace')"
                :aria-label="$t('trials.putNameInPlace', { name: row.name })"
                :disabled="busy"
                @click="emit('choose', row.at)"
              />
              <Button
                v-else-if="trial.runs"
                size="small"
                severity="secondary"
                :label="$t('trials.endAsItIs')"
                :disabled="busy"
                @click="emit('end')"
              />
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="soft small">
      {{ planWords(trial.plan, days) }} {{ $t('trials.lookAnyDay') }} {{ $t('trials.visitorsADay') }}
    </p>
  </article>
</template>

<style scoped>
.trial {
  border: 1px solid var(--line-strong);
  border-radius: 6px;
  background: var(--surface);
  padding: 16px 18px;
  margin-bottom: 16px;
}
.trial.runs {
  border-left: 4px solid var(--accent);
}
h2 {
  font-size: 1.1rem;
}
.verdict {
  font-size: 1.1rem;
  margin: 8px 0 10px;
  max-width: 50rem;
}
.verdict.better {
  font-weight: 650;
  color: var(--accent);
}
.scroller {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  padding: 6px 10px;
  text-align: right;
  border-top: 1px solid var(--line);
}
th:first-child {
  text-align: left;
}
thead th {
  font-size: 0.84rem;
  border: 0;
  vertical-align: bottom;
}
tbody th {
  font-weight: 500;
}
.best th {
  font-weight: 700;
}
.whole {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  white-space: nowrap;
}
.small {
  margin-top: 8px;
}
</style>
