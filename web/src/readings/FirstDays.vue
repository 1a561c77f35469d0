<script setup lang="ts">
import { computed } from 'vue'
import type { BlockDetail } from '@/api/client'
import { counted, percent } from '@/figures'
import { t } from '@/i18n'
import { spanWords } from './ranges'

/** How the clicks on a button came in, in the days after it was first shown. */
const props = defineProps<{ first: BlockDetail['firstDays'] }>()

const [WIDTH, HEIGHT] = [560, 150]
const curve = computed(() => {
  const { shares } = props.first
  const x = (days: number) => (WIDTH * days) / shares.length
  const y = (share: number) => HEIGHT * (1 - share)
  return {
    line: ['0,' + HEIGHT, ...shares.map((share, i) => `${x(i + 1)},${y(share)}`)].join(' '),
    half: x(props.first.halfLife),
    middle: y(0.5),
  }
})
/** Days in words: tenths say something of few only. */
const daysWords = (days: number) => (days < 10 ? days.toFixed(1) : String(Math.round(days)))
const words = computed(() => {
  const { since, clicks, halfLife, shares, fades, steady } = props.first
  const said = t('readings.firstDaysSay', {
    since: spanWords(since, since),
    clicks: counted(clicks, 'click'),
    n: shares.length,
    half: daysWords(halfLife),
    week: percent(shares[6] ?? shares.at(-1) ?? 0),
  })
  const even = daysWords(steady)
  return `${said} ${fades ? t('readings.itFades', { steady: even }) : t('readings.itIsSteady', { steady: even })}`
})
</script>

<template>
  <section v-if="first.shares.length > 1" aria-labelledby="first-title">
    <h2 id="first-title">{{ $t('readings.itsFirstDays') }}</h2>
    <p>{{ words }}</p>
    <svg :viewBox="`-4 -6 ${WIDTH + 8} ${HEIGHT + 26}`" role="img" :aria-label="words">
      <line x1="0" :x2="WIDTH" :y1="HEIGHT" :y2="HEIGHT" class="axis" />
      <path :d="`M0 ${curve.middle}H${curve.half}V${HEIGHT}`" class="half" />
      <polyline :points="curve.line" class="line" />
      <circle :cx="curve.half" :cy="curve.middle" r="4" class="dot" />
      <text x="0" :y="HEIGHT + 16">{{ spanWords(first.since, first.since) }}</text>
      <text :x="WIDTH" :y="HEIGHT + 16" text-anchor="end">
        {{ $t('readings.dayN', { n: first.shares.length }) }}
      </text>
    </svg>
  </section>
</template>

<style scoped>
section {
  margin-top: 28px;
}
h2 {
  margin-bottom: 6px;
}
svg {
  display: block;
  width: 100%;
  max-width: 36rem;
  margin-top: 10px;
  fill: none;
}
.axis {
  stroke: var(--line-strong);
}
.half {
  stroke: var(--ink-soft);
  stroke-dasharray: 4 4;
}
.line {
  stroke: var(--accent);
  stroke-width: 2.5;
}
.dot {
  fill: var(--accent);
}
text {
  fill: var(--ink-soft);
  font-size: 12px;
}
</style>
