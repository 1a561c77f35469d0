<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { useDebounceFn } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { computed, ref, useId } from 'vue'
import { sourcesQuery } from '@/api/queries'
import { toMoment, toWallClock } from '@/fields/zonedTime'
import { t } from '@/i18n'
import { useZone } from '@/shell/useZone'
import PreviewAddress from './PreviewAddress.vue'
import { momentWords } from './stateWords'
import { useRibbon } from './useRibbon'

/** Slides through time, and stands where somebody from a source stands: the strip follows. */
const props = defineProps<{ pageId: string; instead: string }>()
const at = defineModel<string>('at', { required: true })
const from = defineModel<string>('from', { required: true })
const emit = defineEmits<{ close: [] }>()
const { data: sources } = useQuery(sourcesQuery(() => props.pageId))
const id = useId()

/** Stands for no source: a choice that is empty would show nothing. */
const ANYWHERE = 'anywhere'
const zone = useZone()
const choices = computed(() => [
  { id: ANYWHERE, name: t('arrange.fromAnywhere') },
  ...(sources.value ?? []).filter(({ retired }) => !retired).map(({ id, name }) => ({ id, name })),
])

const HOUR = 3_600_000
const { ribbon } = useRibbon()
const begins = computed(() => Math.ceil(Date.parse(ribbon.value?.from ?? '') / HOUR))
const ends = computed(() => Math.floor(Date.parse(ribbon.value?.to ?? '') / HOUR))
/** Hours since 1970: what the slider moves, and a moment later the strip. */
const hour = ref(Math.round((at.value ? Date.parse(at.value) : Date.now()) / HOUR))
const momentOf = (hours: number) => new Date(hours * HOUR).toISOString().replace('.000Z', 'Z')
const follow = useDebounceFn(() => (at.value = momentOf(hour.value)), 150)
const moment = computed(() => at.value || new Date().toISOString())
const words = computed(() => momentWords(moment.value, zone.value))
const who = computed(() => choices.value.find(({ id }) => id === (from.value || ANYWHERE))?.name ?? '')

function slide(event: Event) {
  hour.value = Number((event.target as HTMLInputElement).value)
  void follow()
}

function type(event: Event) {
  const moment = toMoment((event.target as HTMLInputElement).value || undefined, zone.value)
  if (!moment) return
  at.value = moment
  hour.value = Math.floor(Date.parse(moment) / HOUR)
}
</script>

<template>
  <section class="seen" :aria-label="$t('arrange.seenAs')">
    <p class="words" role="status">{{ $t('arrange.asItIs', { at: words, who }) }} {{ instead }}</p>
    <div class="line">
      <label class="visually-hidden" :for="`${id}-at`">{{ $t('arrange.moment') }}</label>
      <InputText
        :id="`${id}-at`"
        type="datetime-local"
        :model-value="toWallClock(moment, zone)"
        @change="type"
      />
      <Select
        :model-value="from || ANYWHERE"
        :options="choices"
        option-value="id"
        option-label="name"
        :aria-label="$t('arrange.comingFrom')"
        size="small"
        @update:model-value="from = $event === ANYWHERE ? '' : $event"
      />
      <Button size="small" severity="secondary" :label="$t('arrange.backToNow')" @click="emit('close')" />
    </div>
    <input
      v-if="ribbon"
      class="slide"
      type="range"
      :min="begins"
      :max="ends"
      :value="hour"
      :aria-label="$t('arrange.slide')"
      :aria-valuetext="words"
      @input="slide"
    />
    <PreviewAddress :page-id="pageId" :at="at" :from="from" :zone="zone" />
  </section>
</template>

<style scoped>
.seen {
  position: sticky;
  top: calc(var(--crown) + 6px);
  z-index: 7;
  display: grid;
  gap: 8px;
  padding: 12px 16px;
  margin: 0 0 14px var(--gutter);
  max-width: 640px;
  border: 1px solid var(--amber);
  border-radius: 8px;
  background: var(--amber-soft);
}
.words {
  margin: 0;
  font-weight: 600;
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
.slide {
  width: 100%;
  margin: 0;
  accent-color: var(--accent);
}
@media (max-width: 720px) {
  .seen {
    margin-left: 0;
  }
}
</style>
