<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Select from 'primevue/select'
import { computed, useId, watchEffect } from 'vue'
import { api, take } from '@/api/client'
import { t } from '@/i18n'
import { loadFonts } from '@/page/pageStyleSheet'

/** A pair of fonts, each shown in itself. */
const props = defineProps<{ modelValue: string; optional?: boolean }>()
const emit = defineEmits<{ 'update:modelValue': [pair: string] }>()

const id = useId()
const { data } = useQuery({
  queryKey: ['looks'],
  queryFn: () => take(api.GET('/api/looks')),
  staleTime: Infinity,
})
watchEffect(() => data.value?.pairs.forEach((pair) => loadFonts(pair.fonts)))

const FALLBACK = {
  sans: 'system-ui, sans-serif',
  serif: 'ui-serif, Georgia, serif',
  mono: 'ui-monospace, monospace',
  hand: 'system-ui, sans-serif',
}
type Face = NonNullable<typeof data.value>['pairs'][number]['head']
const font = (face: Face, bold: boolean) => ({
  fontFamily: `${face.family ? `'${face.family}', ` : ''}${FALLBACK[face.kind]}`,
  fontWeight: bold ? face.bold || face.weight : face.weight,
})
const options = computed(() => [
  ...(props.optional ? [{ id: '', name: t('look.asThePage'), head: undefined, text: undefined }] : []),
  ...(data.value?.pairs ?? []),
])
</script>

<template>
  <div class="field">
    <label :for="id">{{ $t('look.fonts') }}</label>
    <Select
      :input-id="id"
      :label-id="id"
      :model-value="modelValue"
      :options="options"
      option-value="id"
      option-label="name"
      :aria-label="$t('look.fonts')"
      scroll-height="26rem"
      @update:model-value="emit('update:modelValue', $event)"
    >
      <template #option="{ option }">
        <span class="pair">
          <span v-if="option.head" class="head" :style="font(option.head, false)">{{ option.name }}</span>
          <span v-else>{{ option.name }}</span>
          <span v-if="option.text" class="text" :style="font(option.text, false)">{{
            $t('look.bowlsJarsAnd24Cups')
          }}</span>
        </span>
      </template>
    </Select>
  </div>
</template>

<style scoped>
.pair {
  display: grid;
  line-height: 1.25;
}
.head {
  font-size: 1.2rem;
}
.text {
  color: var(--ink-soft);
}
</style>
