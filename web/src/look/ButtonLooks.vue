<script setup lang="ts">
import type { Buttons, Figure } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldColour from '@/fields/FieldColour.vue'

/** How buttons look: the page's, or those of one block alone. */
const props = defineProps<{
  buttons: Buttons
  figures: Map<string, Figure>
  /** What stands before the names of the figures: empty for the page's. */
  where: string
  palette: readonly string[]
}>()
const emit = defineEmits<{ change: [what: string, make: (buttons: Buttons) => void] }>()

const fills = [
  { value: 'filled', label: 'Filled' },
  { value: 'outlined', label: 'Outlined' },
  { value: 'soft', label: 'Soft' },
  { value: 'bare', label: 'Bare' },
] as const
const corners = [
  { value: 'square', label: 'Square' },
  { value: 'rounded', label: 'Rounded' },
  { value: 'pill', label: 'Pill' },
] as const
const shadows = [
  { value: 'none', label: 'None' },
  { value: 'soft', label: 'Soft' },
  { value: 'hard', label: 'Hard' },
] as const
const widths = [
  { value: 'full', label: 'Full' },
  { value: 'wide', label: 'Wide' },
  { value: 'narrow', label: 'Narrow' },
] as const

const figure = (name: string) => props.figures.get(`${props.where}buttons/${name}`)

function set<F extends keyof Buttons>(field: F, value: Buttons[F]) {
  emit('change', field, (buttons) => (buttons[field] = value))
}
</script>

<template>
  <FieldChoice
    label="Fill"
    :model-value="buttons.fill"
    :options="fills"
    @update:model-value="set('fill', $event)"
  />
  <FieldChoice
    label="Corners"
    :model-value="buttons.corners"
    :options="corners"
    @update:model-value="set('corners', $event)"
  />
  <FieldChoice
    label="Shadow"
    :model-value="buttons.shadow"
    :options="shadows"
    @update:model-value="set('shadow', $event)"
  />
  <FieldChoice
    label="Width"
    :model-value="buttons.width"
    :options="widths"
    @update:model-value="set('width', $event)"
  />
  <FieldColour
    v-if="buttons.fill === 'filled' || buttons.fill === 'soft'"
    label="Button"
    :model-value="buttons.ground"
    :palette="palette"
    @update:model-value="set('ground', $event)"
  />
  <FieldColour
    label="Text on it"
    :model-value="buttons.text"
    :figure="figure('text')"
    :palette="palette"
    @update:model-value="set('text', $event)"
  />
  <FieldColour
    label="Edge and shadow"
    :model-value="buttons.edge"
    :figure="figure('edge')"
    :palette="palette"
    @update:model-value="set('edge', $event)"
  />
</template>
