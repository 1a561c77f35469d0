<script setup lang="ts">
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import { computed, onBeforeUnmount, ref, useId, watch } from 'vue'
import WrongText from './WrongText.vue'
import { useRefused } from './refused'

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
  /** Send what is typed on leaving the field only: for lists, which are none until they are whole. */
  lazy?: boolean
  /** Its place in what is edited, where the server may say why it cannot be saved. */
  at?: string
  /** What holds instead while it cannot be saved. */
  still?: string
}>()
const emit = defineEmits<{ 'update:modelValue': [text: string] }>()

const id = useId()
const text = ref(props.modelValue ?? '')
const typing = ref(false)
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

const refusedAt = useRefused()
// Half an address is no mistake while it is being typed.
const says = computed(() => {
  if (props.wrong) return props.wrong
  const refused = props.at && !typing.value ? refusedAt(props.at) : undefined
  return refused && props.still ? `${refused} ${props.still}` : refused
})

function typed() {
  typing.value = true
  if (!props.lazy) emit('update:modelValue', text.value)
}

function left() {
  inUse = false
  typing.value = false
  if (props.lazy) {
    if (text.value !== (props.modelValue ?? '')) emit('update:modelValue', text.value)
  } else text.value = props.modelValue ?? ''
}

// An editor may be closed while its field is in use.
onBeforeUnmount(() => inUse && left())
</script>

<template>
  <div class="field">
    <div class="line">
      <label :for="id">{{ label }}</label><span v-if="counts" class="count">{{
        $t('fields.lengthOf', { n: length, most: maxlength })
      }}</span>
    </div>
    <Textarea
      v-if="lines"
      :id="id"
      v-model="text"
      :rows="lines"
      auto-resize
      :maxlength="maxlength"
      :placeholder="placeholder"
      :invalid="!!says"
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
      :invalid="!!says"
      :aria-describedby="`${id}-says`"
      @focus="inUse = true"
      @input="typed"
      @blur="left"
    />
    <WrongText :id="`${id}-says`" :text="says" />
    <p v-if="!says && hint" :id="`${id}-says`" class="hint">{{ hint }}</p>
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
