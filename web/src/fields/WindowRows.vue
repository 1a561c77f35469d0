<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref, useId } from 'vue'
import ToolButton from './ToolButton.vue'
import WrongText from './WrongText.vue'
import { shownInstead } from './zonedTime'

/** From-until times on the clocks of a zone. A row in which nothing stands yet is nobody's but the form's. */
interface Window {
  from?: string
  to?: string
}
const props = defineProps<{ modelValue: Window[]; zone?: string; wrong?: string; always: string }>()
const emit = defineEmits<{ 'update:modelValue': [windows: Window[]] }>()
const id = useId()

/** The times that were typed last and that the clocks of the zone skip, with what they show instead. */
const skipped = ref<{ typed: string; shown: string }>()

const begun = ref(false)
const rows = computed<Window[]>(() => (begun.value ? [...props.modelValue, {}] : props.modelValue))

function type(i: number, end: 'from' | 'to', event: Event) {
  const typed = (event.target as HTMLInputElement).value || undefined
  const shown = props.zone && shownInstead(typed, props.zone)
  skipped.value = typed && shown ? { typed, shown } : undefined
  if (i === props.modelValue.length) begun.value = false
  const windows = rows.value.length > i ? [...rows.value] : [...rows.value, {}]
  windows[i] = { ...windows[i], [end]: typed }
  emit('update:modelValue', windows)
}

function takeAway(i: number) {
  if (i === props.modelValue.length) begun.value = false
  else
    emit(
      'update:modelValue',
      props.modelValue.filter((_, at) => at !== i),
    )
}
</script>

<template>
  <div class="windows">
    <p v-if="!rows.length" class="soft">{{ always }}</p>
    <ul v-else>
      <li v-for="(each, i) in rows" :key="i">
        <label :for="`${id}-${i}-from`">{{ $t('fields.from') }}</label>
        <InputText
          :id="`${id}-${i}-from`"
          type="datetime-local"
          :model-value="each.from"
          @change="type(i, 'from', $event)"
        />
        <label :for="`${id}-${i}-to`">{{ $t('fields.until') }}</label>
        <InputText
          :id="`${id}-${i}-to`"
          type="datetime-local"
          :model-value="each.to"
          @change="type(i, 'to', $event)"
        />
        <ToolButton :icon="X" :label="$t('fields.takeWindowAway', { n: i + 1 })" @click="takeAway(i)" />
      </li>
    </ul>
    <p v-if="rows.length && zone" class="soft small">
      {{ $t('fields.byTheClocksOf', { zone: zone.replaceAll('_', ' ') }) }}
    </p>
    <p v-if="skipped" class="small" role="status">
      {{
        $t('fields.skippedTime', {
          typed: skipped.typed.replace('T', ' '),
          shown: skipped.shown.replace('T', ' '),
        })
      }}
    </p>
    <p v-if="modelValue.some(({ from, to }) => !from && !to)" class="small" role="status">
      {{ $t('fields.windowNeedsTime') }}
    </p>
    <Button size="small" severity="secondary" :disabled="begun" @click="begun = true">
      <Plus aria-hidden="true" /> {{ $t('fields.window') }}
    </Button>
    <WrongText :text="wrong" />
  </div>
</template>

<style scoped>
.windows {
  display: grid;
  gap: 8px;
  justify-items: start;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 6px;
}
li {
  display: grid;
  grid-template-columns: 3rem 13.5rem auto;
  align-items: center;
  gap: 4px 8px;
}
li .tool {
  grid-area: 1 / 3;
}
label {
  font-size: 0.87rem;
  color: var(--ink-soft);
}
svg {
  width: 14px;
  height: 14px;
}
.wrong {
  color: var(--danger);
}
</style>
