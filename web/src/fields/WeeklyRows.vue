<script setup lang="ts">
import { CalendarClock, X } from '@lucide/vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { useId } from 'vue'
import type { Block } from '@/api/client'
import ToolButton from '@/fields/ToolButton.vue'
import { formatsOf } from '@/i18n'

/** Times that repeat every week, by the clocks of the workspace. */
type Weekly = NonNullable<NonNullable<Block['when']>['weekly']>
const props = defineProps<{ modelValue: Weekly; zone?: string }>()
const emit = defineEmits<{ 'update:modelValue': [weekly: Weekly] }>()
const id = useId()

/** Days as RFC 5545 writes them, in the order of the week, and as people say them. */
const DAYS = (['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'] as const).map((day, i) => {
  const date = new Date(Date.UTC(2024, 0, 1 + i)) // a Monday
  const said = (weekday: 'short' | 'long') =>
    date.toLocaleDateString(formatsOf(), { weekday, timeZone: 'UTC' })
  return { day, short: said('short'), long: said('long') }
})

function set(i: number, change: Partial<Weekly[number]>) {
  emit(
    'update:modelValue',
    props.modelValue.map((each, at) => (at === i ? { ...each, ...change } : each)),
  )
}

const toggled = (days: string[], day: string) =>
  days.includes(day) ? days.filter((each) => each !== day) : [...days, day]
const typed = (event: Event) => (event.target as HTMLInputElement).value

function add() {
  emit('update:modelValue', [...props.modelValue, { days: ['FR'], from: '10:00', to: '18:00' }])
}
</script>

<template>
  <div class="weekly">
    <fieldset v-for="(rule, i) in modelValue" :key="i">
      <legend class="visually-hidden">{{ $t('arrange.everyWeekNumber', { n: i + 1 }) }}</legend>
      <div class="days">
        <label v-for="each in DAYS" :key="each.day" :class="{ on: rule.days.includes(each.day) }">
          <input
            type="checkbox"
            :checked="rule.days.includes(each.day)"
            :disabled="rule.days.length === 1 && rule.days[0] === each.day"
            :aria-label="each.long"
            @change="set(i, { days: toggled(rule.days, each.day) })"
          /><span aria-hidden="true">{{ each.short }}</span>
        </label>
      </div>
      <div class="times">
        <label :for="`${id}-${i}-from`">{{ $t('fields.from') }}</label>
        <InputText
          :id="`${id}-${i}-from`"
          type="time"
          :model-value="rule.from"
          @change="typed($event) && set(i, { from: typed($event) })"
        />
        <label :for="`${id}-${i}-to`">{{ $t('fields.until') }}</label>
        <InputText
          :id="`${id}-${i}-to`"
          type="time"
          :model-value="rule.to"
          @change="typed($event) && set(i, { to: typed($event) })"
        />
        <span v-if="rule.to <= rule.from" class="soft small">{{ $t('arrange.nextDay') }}</span>
        <ToolButton
          :icon="X"
          :label="$t('arrange.takeWeeklyAway', { n: i + 1 })"
          @click="
            emit(
              'update:modelValue',
              modelValue.filter((_, at) => at !== i),
            )
          "
        />
      </div>
    </fieldset>
    <p v-if="modelValue.length && zone" class="soft small">
      {{ $t('fields.byTheClocksOf', { zone: zone.replaceAll('_', ' ') }) }}
    </p>
    <Button size="small" severity="secondary" @click="add">
      <CalendarClock :size="14" aria-hidden="true" /> {{ $t('arrange.everyWeek') }}
    </Button>
  </div>
</template>

<style scoped>
.weekly {
  display: grid;
  gap: 10px;
  justify-items: start;
}
fieldset {
  border: 0;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 6px;
}
.days {
  display: flex;
  gap: 2px;
}
.days label {
  position: relative;
  padding: 3px 7px;
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  font-size: 0.82rem;
  cursor: pointer;
}
.days label.on {
  background: var(--accent);
  border-color: var(--accent);
  color: var(--surface);
  font-weight: 600;
}
.days input {
  position: absolute;
  inset: 0;
  opacity: 0;
  margin: 0;
  cursor: pointer;
}
.days label:has(:focus-visible) {
  outline: 2px solid var(--accent);
  outline-offset: 2px;
}
.times {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
.times input {
  flex: 0 1 7.6rem;
  min-width: 0;
  padding-inline: 8px;
  font-size: 0.9rem;
}
.times label {
  font-size: 0.87rem;
  color: var(--ink-soft);
}
</style>
