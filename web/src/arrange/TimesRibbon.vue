<script setup lang="ts">
import { Temporal } from 'temporal-polyfill'
import { computed, ref, useTemplateRef } from 'vue'
import type { Block } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import { t } from '@/i18n'
import { momentWords } from './stateWords'
import { OVERS, useRibbon, type Over } from './useRibbon'

/**
 * Windows on a ribbon with a line for now: dragged as a whole or by an end, or moved by key. Ends that are open
 * reach to the end of the ribbon.
 */
type Span = NonNullable<NonNullable<Block['when']>['spans']>[number]
type End = 'from' | 'to'
const props = defineProps<{ modelValue: Span[]; zone: string }>()
const emit = defineEmits<{ 'update:modelValue': [spans: Span[]] }>()

const { over, ribbon } = useRibbon()
/** By what a window is moved, in minutes: what one can aim at on so short or so long a ribbon. */
const STEP: Record<Over, number> = { hours: 15, weeks: 60, months: 24 * 60 }
const MINUTE = 60_000

const begins = computed(() => Date.parse(ribbon.value?.from ?? ''))
const ends = computed(() => Date.parse(ribbon.value?.to ?? ''))
const at = (moment: number) => (100 * (moment - begins.value)) / (ends.value - begins.value)
const now = computed(() => at(Date.now()))

/** The spans as they are being dragged, before they are let go. */
const dragged = ref<Span[]>()
const spans = computed(() => dragged.value ?? props.modelValue)
const bars = computed(() =>
  spans.value.map((span, i) => {
    const from = span.from ? Date.parse(span.from) : begins.value
    const to = span.to ? Date.parse(span.to) : ends.value
    const [left, right] = [from, to].map((moment) => Math.min(100, Math.max(0, at(moment))))
    return { i, span, left: left!, width: Math.max(0, right! - left!), inSight: right! > 0 && left! < 100 }
  }),
)

/** A moment so much later, at a full step of the clocks of the zone; over months at the same time of another day. */
function later(moment: string, by: number) {
  const zoned = Temporal.Instant.from(moment).toZonedDateTimeISO(props.zone)
  const step = STEP[over.value] * MINUTE
  if (over.value === 'months') return written(zoned.add({ days: Math.round(by / step) }))
  const moved = zoned.add({ milliseconds: Math.round(by) })
  return written(
    over.value === 'weeks'
      ? moved.round({ smallestUnit: 'hour' })
      : moved.round({ smallestUnit: 'minute', roundingIncrement: 15 }),
  )
}

const written = (zoned: Temporal.ZonedDateTime) => zoned.toInstant().toString({ smallestUnit: 'second' })

/** Moves ends of a window, unless it would end before it begins. */
function moved(i: number, which: readonly End[], by: number): Span[] {
  return props.modelValue.map((span, n) => {
    if (n !== i) return span
    const next = { ...span }
    for (const end of which) if (span[end]) next[end] = later(span[end], by)
    return next.from && next.to && Date.parse(next.from) >= Date.parse(next.to) ? span : next
  })
}

const track = useTemplateRef<HTMLElement>('track')
let began: { x: number; i: number; which: readonly End[] } | undefined

function press(event: PointerEvent, i: number, which: readonly End[]) {
  if (event.button !== 0) return
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  began = { x: event.clientX, i, which }
}

function drag(event: PointerEvent) {
  if (!began || !track.value) return
  const share = (event.clientX - began.x) / track.value.clientWidth
  dragged.value = moved(began.i, began.which, share * (ends.value - begins.value))
}

function letGo() {
  if (dragged.value) emit('update:modelValue', dragged.value)
  began = dragged.value = undefined
}

const KEYS: Record<string, number> = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1, PageDown: -10, PageUp: 10 } // prettier-ignore

function key(event: KeyboardEvent, i: number, end: End) {
  const steps = KEYS[event.key]
  if (!steps) return
  event.preventDefault()
  event.stopPropagation()
  const which: readonly End[] = event.shiftKey ? ['from', 'to'] : [end]
  emit('update:modelValue', moved(i, which, steps * STEP[over.value] * MINUTE))
}

const wordsOf = (moment: string) => momentWords(moment, props.zone)
const thumbsOf = (span: Span) => (['from', 'to'] as const).filter((end) => span[end])
const nameOf = (end: End, i: number) =>
  end === 'from' ? t('arrange.windowBegins', { n: i + 1 }) : t('arrange.windowEnds', { n: i + 1 })
</script>

<template>
  <div v-if="ribbon" class="times">
    <FieldChoice v-model="over" :label="$t('arrange.ribbonOver')" :options="OVERS" />
    <div ref="track" class="track">
      <span class="now" :style="{ left: `${now}%` }" aria-hidden="true"></span>
      <template v-for="bar in bars" :key="bar.i">
        <span
          v-if="bar.inSight"
          class="bar"
          :style="{ left: `${bar.left}%`, width: `${bar.width}%` }"
          aria-hidden="true"
          @pointerdown="press($event, bar.i, ['from', 'to'])"
          @pointermove="drag"
          @pointerup="letGo"
          @pointercancel="letGo"
        ></span>
        <span
          v-for="end in bar.inSight ? thumbsOf(bar.span) : []"
          :key="end"
          class="thumb"
          :class="end"
          role="slider"
          tabindex="0"
          :style="{ left: `${end === 'from' ? bar.left : bar.left + bar.width}%` }"
          :aria-label="nameOf(end, bar.i)"
          :aria-valuemin="Math.round(begins / 3_600_000)"
          :aria-valuemax="Math.round(ends / 3_600_000)"
          :aria-valuenow="Math.round(Date.parse(bar.span[end]!) / 3_600_000)"
          :aria-valuetext="wordsOf(bar.span[end]!)"
          @keydown="key($event, bar.i, end)"
          @pointerdown="press($event, bar.i, [end])"
          @pointermove="drag"
          @pointerup="letGo"
          @pointercancel="letGo"
        ></span>
      </template>
    </div>
    <p class="ends soft small">
      <span>{{ wordsOf(ribbon.from) }}</span><span>{{ wordsOf(ribbon.to) }}</span>
    </p>
    <p class="soft small">{{ $t('arrange.ribbonKeys') }}</p>
  </div>
</template>

<style scoped>
.times {
  display: grid;
  gap: 6px;
  width: 100%;
}
.track {
  position: relative;
  height: 44px;
  margin: 6px 26px 0;
  border-bottom: 2px solid var(--line-strong);
  touch-action: pan-y;
}
.now {
  position: absolute;
  top: 0;
  bottom: -2px;
  width: 2px;
  background: var(--amber);
}
.bar {
  position: absolute;
  top: 10px;
  height: 24px;
  min-width: 6px;
  background: var(--accent);
  opacity: 0.75;
  cursor: grab;
  touch-action: none;
}
.bar:active {
  cursor: grabbing;
}
/* Beside the window, so that however short it is there is something to drag it by. */
.thumb {
  position: absolute;
  top: 6px;
  width: 24px;
  height: 32px;
  cursor: ew-resize;
  touch-action: none;
}
.thumb::after {
  content: '';
  position: absolute;
  inset: 4px 19px 4px 0;
  border-radius: 3px;
  background: var(--ink);
}
.thumb.from {
  margin-left: -24px;
}
.thumb.from::after {
  inset: 4px 0 4px 19px;
}
.thumb:focus-visible {
  outline: 2px solid var(--accent);
  outline-offset: 0;
  border-radius: 4px;
}
.ends {
  display: flex;
  justify-content: space-between;
  gap: 12px;
}
p {
  margin: 0;
}
</style>
