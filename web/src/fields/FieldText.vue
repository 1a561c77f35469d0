<script setup lang="ts">
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import { computed, ref, useId, watch } from 'vue'

/**
 * A field that is typed into. What is typed goes out at once, and what comes
 * back from the server never overwrites it while the field is in use.
 */
const props = defineProps<{
  label: string
  modelValue: string | undefined
  maxlength?: number
  hint?: string
  wrong?: string
  lines?: number
  inputmode?: 'url' | 'tel' | 'email' | 'decimal'
  /** Count characters from this many on. */
  countFrom?: number
  placeholder?: string
  /** Send what is typed on leaving the field only: for addresses, which are none until they are whole. */
  lazy?: boolean
}>()
const emit = defineEmits<{ 'update:modelValue': [text: string] }>()

const id = useId()
const text = ref(props.modelValue ?? '')
let inUse = false
watch(
  () => props.modelValue,
  (now) => {
    if (!inUse) text.value = now ?? ''
  },
)

const length = computed(() => [...text.value].length)
const counts = computed(() => props.countFrom !== undefined && length.value >= props.countFrom)
const code = computed(() => props.inputmode === 'url' || props.inputmode === 'email')

function typed() {
  if (!props.lazy) emit('update:modelValue', text.value)
}

function left() {
  inUse = false
  if (props.lazy) {
    if (text.value !== (props.modelValue ?? '')) emit('update:modelValue', text.value)
  } else text.value = props.modelValue ?? ''
}
</script>

<template>
  <div class="field">
    <div class="line">
      <label :for="id">{{ label }}</label><span v-if="counts" class="count"
        >{{ length }} of {{ maxlength }}</span
      >
    </div>
    <Textarea
      v-if="lines"
      :id="id"
      v-model="text"
      :rows="lines"
      auto-resize
      :maxlength="maxlength"
      :placeholder="placeholder"
      :invalid="!!wrong"
      :aria-describedby="`${id}-says`"
      @focus="inUse = true"
      @input="typed"
      @blur="left"
    />
    <InputText
      v-else
      :id="id"
      v-model="text"
      :maxlength="maxlength"
      :inputmode="inputmode"
      :placeholder="placeholder"
      :autocapitalize="code ? 'none' : undefined"
      :spellcheck="code ? false : undefined"
      autocomplete="off"
      :invalid="!!wrong"
      :aria-describedby="`${id}-says`"
      @focus="inUse = true"
      @input="typed"
      @blur="left"
    />
    <p v-if="wrong" :id="`${id}-says`" class="wrong" role="alert">{{ wrong }}</p>
    <p v-else-if="hint" :id="`${id}-says`" class="hint">{{ hint }}</p>
  </div>
</template>

<style scoped>
.line {
  display: flex;
  justify-content: space-between;
}
.count {
  font-size: 0.9rem;
  color: var(--ink-soft);
}
</style>
