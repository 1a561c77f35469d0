<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import Button from 'primevue/button'
import { useId } from 'vue'
import ToolButton from '@/fields/ToolButton.vue'
import WrongText from '@/fields/WrongText.vue'
import type { Words } from './shortLinks'

/** The times in which a short link is in force, in the workspace's zone. */
type Windows = Words['windows']
const props = defineProps<{ modelValue: Windows; zone?: string; wrong?: string }>()
const emit = defineEmits<{ 'update:modelValue': [windows: Windows] }>()
const id = useId()

const replaced = (i: number, change: Partial<Windows[number]>) =>
  props.modelValue.map((each, at) => (at === i ? { ...each, ...change } : each))
const typed = (event: Event) => (event.target as HTMLInputElement).value || undefined
</script>

<template>
  <div class="windows">
    <p v-if="!modelValue.length" class="soft">{{ $t('shelf.alwaysGiveItAWindow') }}</p>
    <ul v-else>
      <li v-for="(each, i) in modelValue" :key="i">
        <label :for="`${id}-${i}-from`">{{ $t('shelf.from') }}</label>
        <input
          :id="`${id}-${i}-from`"
          class="p-inputtext"
          type="datetime-local"
          :value="each.from"
          @change="emit('update:modelValue', replaced(i, { from: typed($event) }))"
        />
        <label :for="`${id}-${i}-to`">{{ $t('shelf.until') }}</label>
        <input
          :id="`${id}-${i}-to`"
          class="p-inputtext"
          type="datetime-local"
          :value="each.to"
          @change="emit('update:modelValue', replaced(i, { to: typed($event) }))"
        />
        <ToolButton
          :icon="X"
          :label="$t('shelf.takeWindowAway', { n: i + 1 })"
          @click="
            emit(
              'update:modelValue',
              modelValue.filter((_, at) => at !== i),
            )
          "
        />
      </li>
    </ul>
    <p v-if="modelValue.length && zone" class="soft small">
      {{ $t('shelf.byTheClocksOf', { zone: zone.replaceAll('_', ' ') }) }}
    </p>
    <Button size="small" severity="secondary" @click="emit('update:modelValue', [...modelValue, {}])">
      <Plus aria-hidden="true" /> {{ $t('shelf.window') }}
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
input {
  font: inherit;
}
svg {
  width: 14px;
  height: 14px;
}
.wrong {
  color: var(--danger);
}
</style>
