<script setup lang="ts">
import InputText from 'primevue/inputtext'
import { computed, useId } from 'vue'
import WrongText from './WrongText.vue'
import { useRefused } from './refused'
import { toMoment, toWallClock } from './zonedTime'

/** A moment by the clocks of a zone, or only its day. */
const props = defineProps<{
  label: string
  modelValue: string | undefined
  zone: string
  /** Only the day is asked for; the moment is noon then. */
  day?: boolean
  hint?: string
  /** Its place in what is edited, where the server may say why it cannot be saved. */
  at?: string
}>()
const emit = defineEmits<{ 'update:modelValue': [moment: string | undefined] }>()
const id = useId()
const shown = computed(() => {
  const clock = toWallClock(props.modelValue, props.zone)
  return props.day ? clock?.slice(0, 10) : clock
})
const refusedAt = useRefused()
const wrong = computed(() => props.at && refusedAt(props.at))

function typed(event: Event) {
  const text = (event.target as HTMLInputElement).value
  emit('update:modelValue', text ? toMoment(props.day ? `${text}T12:00` : text, props.zone) : undefined)
}
</script>

<template>
  <div class="field">
    <label :for="id">{{ label }}</label>
    <InputText
      :id="id"
      :type="day ? 'date' : 'datetime-local'"
      :model-value="shown"
      :aria-describedby="hint ? `${id}-hint` : undefined"
      @change="typed"
    />
    <small v-if="hint" :id="`${id}-hint`">{{ hint }}</small>
    <WrongText :text="wrong || undefined" />
  </div>
</template>
