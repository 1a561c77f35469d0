<script setup lang="ts">
import type { Buttons, Figure } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldColour from '@/fields/FieldColour.vue'
import { t } from '@/i18n'

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
  { value: 'filled', label: t('look.filled') },
  { value: 'outlined', label: t('look.outlined') },
  { value: 'soft', label: t('look.soft') },
  { value: 'bare', label: t('look.bare') },
] as const
const corners = [
  { value: 'square', label: t('look.square') },
  { value: 'rounded', label: t('look.rounded') },
  { value: 'pill', label: t('look.pill') },
] as const
const shadows = [
  { value: 'none', label: t('look.none') },
  { value: 'soft', label: t('look.soft') },
  { value: 'hard', label: t('look.hard') },
] as const
const widths = [
  { value: 'full', label: t('look.full') },
  { value: 'wide', label: t('look.wide') },
  { value: 'narrow', label: t('look.narrow') },
] as const

const figure = (name: string) => props.figures.get(`${props.where}buttons/${name}`)

function set<F extends keyof Buttons>(field: F, value: Buttons[F]) {
  emit('change', field, (buttons) => (buttons[field] = value))
}
</script>

<template>
  <FieldChoice
    :label="$t('look.fill')"
    :model-value="buttons.fill"
    :options="fills"
    @update:model-value="set('fill', $event)"
  />
  <FieldChoice
    :label="$t('look.corners')"
    :model-value="buttons.corners"
    :options="corners"
    @update:model-value="set('corners', $event)"
  />
  <FieldChoice
    :label="$t('look.shadow')"
    :model-value="buttons.shadow"
    :options="shadows"
    @update:model-value="set('shadow', $event)"
  />
  <FieldChoice
    :label="$t('look.width')"
    :model-value="buttons.width"
    :options="widths"
    @update:model-value="set('width', $event)"
  />
  <FieldColour
    v-if="buttons.fill === 'filled' || buttons.fill === 'soft'"
    :label="$t('common.button')"
    :model-value="buttons.ground"
    :palette="palette"
    @update:model-value="set('ground', $event)"
  />
  <FieldColour
    :label="$t('look.textOnIt')"
    :model-value="buttons.text"
    :figure="figure('text')"
    :palette="palette"
    @update:model-value="set('text', $event)"
  />
  <FieldColour
    :label="$t('look.edgeAndShadow')"
    :model-value="buttons.edge"
    :figure="figure('edge')"
    :palette="palette"
    @update:model-value="set('edge', $event)"
  />
</template>
