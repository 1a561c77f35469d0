<script setup lang="ts">
import type { Look } from '@/api/client'
import FieldColour from '@/fields/FieldColour.vue'
import FieldRange from '@/fields/FieldRange.vue'

type Veil = NonNullable<Look['ground']['film']>['veil']

/** The colour laid over a picture or film, so that text on it can be read. */
defineProps<{ veil: Veil; palette: readonly string[] }>()
const emit = defineEmits<{ change: [what: string, make: (veil: Veil) => void] }>()
</script>

<template>
  <FieldColour
    :label="$t('look.veil')"
    :model-value="veil.colour"
    :palette="palette"
    @update:model-value="emit('change', 'veil', (changed) => (changed.colour = $event))"
  />
  <FieldRange
    :label="$t('look.strengthOfTheVeil')"
    :model-value="veil.strength"
    :min="0"
    :max="95"
    unit=" %"
    @update:model-value="emit('change', 'strength', (changed) => (changed.strength = $event))"
  />
</template>
