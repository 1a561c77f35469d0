<script setup lang="ts">
import { computed, ref, useId, watch } from 'vue'
import type { Figure } from '@/api/client'
import { t } from '@/i18n'
import { readColour } from './readColour'

/** A colour by picker or exact code, with the contrast it has and the nearest that passes. */
const props = defineProps<{
  label: string
  modelValue: string
  figure?: Figure
  /** Colours out of the creator's own pictures. */
  palette?: readonly string[]
}>()
const emit = defineEmits<{ 'update:modelValue': [code: string] }>()

const id = useId()
const code = ref(props.modelValue)
let inUse = false
watch(
  () => props.modelValue,
  (now) => {
    if (!inUse) code.value = now
  },
)
const read = computed(() => readColour(code.value))
const typing = ref(false)

function typed() {
  typing.value = true
  if (read.value) choose(read.value)
}

const choose = (text: string) => emit('update:modelValue', text)

function left() {
  inUse = false
  typing.value = false
  // What is no colour stays to be mended, with a word about it.
  if (read.value) code.value = props.modelValue
}

const says = computed(() => {
  if (!props.figure) return ''
  const { ratio, need, passes } = props.figure
  return `${ratio.toFixed(2)} : 1${passes ? '' : t('fields.needs', { need })}`
})
</script>

<template>
  <div class="colour">
    <label :for="id">{{ label }}</label>
    <div class="line">
      <input
        type="color"
        class="well"
        :value="modelValue"
        :aria-label="$t('fields.picker', { label })"
        @input="choose(($event.target as HTMLInputElement).value)"
      />
      <input
        :id="id"
        v-model="code"
        class="code"
        maxlength="40"
        spellcheck="false"
        autocomplete="off"
        :aria-invalid="!read"
        :aria-describedby="`${id}-says`"
        @focus="inUse = true"
        @input="typed"
        @blur="left"
      />
      <span v-if="figure" class="figure" :class="{ fails: !figure.passes }" :title="figure.description">{{
        says
      }}</span>
      <button
        v-if="figure && !figure.passes && figure.better"
        class="repair"
        type="button"
        @click="choose(figure.better)"
      >
        <span class="dot" :style="{ background: figure.better }"></span
        >{{ $t('fields.use', { colour: figure.better }) }}
      </button>
    </div>
    <p v-if="!read && !typing" :id="`${id}-says`" class="wrong" role="alert">
      {{ $t('fields.isNoColourOne', { code }) }}
    </p>
    <div v-if="palette?.length" class="palette">
      <button
        v-for="each in palette"
        :key="each"
        type="button"
        class="dot"
        :style="{ background: each }"
        :aria-label="$t('fields.colourOutOfYourPictures', { label, colour: each })"
        :title="$t('fields.outOfYourPictures', { colour: each })"
        @click="choose(each)"
      ></button>
    </div>
  </div>
</template>

<style scoped>
.colour {
  display: grid;
  gap: 5px;
}
label {
  font-weight: 600;
  font-size: 0.9rem;
}
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
.well {
  width: 34px;
  height: 34px;
  padding: 2px;
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  background: var(--surface);
  cursor: pointer;
}
.code {
  width: 6.2rem;
  height: 34px;
  padding: 0 8px;
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  background: var(--surface);
  color: var(--ink);
  font: inherit;
}
.code[aria-invalid='true'] {
  border-color: var(--danger);
}
.figure {
  font-size: 0.87rem;
  color: var(--ink-soft);
}
.figure.fails {
  color: var(--amber);
  font-weight: 600;
}
.repair {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  background: var(--amber-soft);
  color: var(--ink);
  padding: 4px 9px;
  font-size: 0.85rem;
  cursor: pointer;
}
.palette {
  display: flex;
  gap: 6px;
}
.palette .dot {
  width: 24px;
  height: 24px;
  background-clip: content-box;
}
.dot {
  width: 20px;
  height: 20px;
  border: 1px solid var(--line-strong);
  border-radius: 50%;
  padding: 0;
  cursor: pointer;
}
.repair .dot {
  width: 14px;
  height: 14px;
}
</style>
