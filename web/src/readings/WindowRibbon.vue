<script setup lang="ts">
import { computed } from 'vue'
import type { BlockDetail } from '@/api/client'
import { formatsOf, t } from '@/i18n'

/** When a button was to show by its windows, under the chart of its clicks. */
const props = defineProps<{ windows: BlockDetail['windows']; from: string; days: number; zone: string }>()
const DAY = 86_400_000

/** By the calendar: a day of 23 hours is as wide as any other. */
function dayAt(at: string) {
  const parts = new Intl.DateTimeFormat('en-CA', {
    timeZone: props.zone,
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  }).formatToParts(new Date(at))
  const part = (type: string) => Number(parts.find((each) => each.type === type)?.value)
  const clock = Date.UTC(part('year'), part('month') - 1, part('day'), part('hour'), part('minute'))
  return (clock - Date.parse(`${props.from}T00:00:00Z`)) / DAY
}
const moment = (at: string) =>
  new Date(at).toLocaleString(formatsOf(), { dateStyle: 'medium', timeStyle: 'short', timeZone: props.zone })
const bars = computed(() =>
  props.windows.map(({ from, to }) => {
    const [left, right] = [dayAt(from), dayAt(to)].map((at) => Math.min(Math.max(at, 0), props.days))
    return {
      key: from,
      left: `${(100 * left!) / props.days}%`,
      width: `${(100 * (right! - left!)) / props.days}%`,
      says: t('readings.openFromTo', { from: moment(from), to: moment(to) }),
    }
  }),
)
</script>

<template>
  <template v-if="bars.length">
    <ul class="windows" :aria-label="$t('readings.itsWindows')">
      <li
        v-for="bar in bars"
        :key="bar.key"
        v-tooltip.bottom="bar.says"
        :style="{ left: bar.left, width: bar.width }"
      >
        <span class="visually-hidden">{{ bar.says }}</span>
      </li>
    </ul>
    <p class="soft small">{{ $t('readings.windowsSay') }}</p>
  </template>
</template>

<style scoped>
/* As wide as the plot of the chart above. */
.windows {
  list-style: none;
  position: relative;
  height: 10px;
  margin: 6px 22px 0 50px;
  padding: 0;
  background: var(--sunk);
}
li {
  position: absolute;
  top: 0;
  bottom: 0;
  min-width: 3px;
  background: var(--amber);
}
.small {
  margin-left: 50px;
}
</style>
