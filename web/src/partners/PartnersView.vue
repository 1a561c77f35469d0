<script setup lang="ts">
import { ArrowLeft, Copy } from '@lucide/vue'
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputNumber from 'primevue/inputnumber'
import Select from 'primevue/select'
import Skeleton from 'primevue/skeleton'
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { api, take } from '@/api/client'
import { partnersQuery, partnerQuery } from '@/api/queries'
import { t } from '@/i18n'
import { usePageName } from '@/pages/usePageName'
import RangeChoice from '@/readings/RangeChoice.vue'
import { useCopy } from '@/shell/useCopy'
import { useInAddress } from '@/shell/useInAddress'
import { useMay } from '@/team/useMay'
import PartnerLines from './PartnerLines.vue'
import { partnerText } from './partnerText'
import ReportFile from './ReportFile.vue'

/** What partners counted, against what we did. */
const route = useRoute()
const may = useMay()
const copy = useCopy()
const queries = useQueryClient()
const pageId = computed(() => String(route.params.page))
const range = useInAddress('range', '28d')
const compare = ref('none')
const chosen = useInAddress('with', '')
const { data: partners, error } = useQuery(partnersQuery(pageId))
watch(partners, (list) => {
  if (list?.length && !list.some(({ id }) => id === chosen.value)) chosen.value = list[0]!.id
})
const known = computed(() => partners.value?.find(({ id }) => id === chosen.value)?.id)
const { data: compared, error: wrong } = useQuery(partnerQuery(pageId, known, range))
const marked = computed(
  () => compared.value?.lines.flatMap(({ days }) => days.filter(({ marked }) => marked)).length ?? 0,
)
const says = computed(() => {
  if (!compared.value?.lines.length) return t('partners.nothingInRange')
  const days = marked.value
    ? t('partners.daysDiffer', { n: marked.value }, marked.value)
    : t('partners.allNormal')
  const hours = compared.value.hoursLater
  if (!hours) return days
  const n = Math.abs(hours)
  return `${days} ${hours > 0 ? t('partners.daysBeginLater', { n }, n) : t('partners.daysBeginEarlier', { n }, n)}`
})
const name = usePageName(pageId)
const text = computed(() => (compared.value ? partnerText(compared.value, name.value) : ''))
const again = () => queries.invalidateQueries({ queryKey: ['partners'] })
const tolerance = useMutation({
  mutationFn: (percent: number) =>
    take(
      api.PUT('/api/pages/{page}/partners/{partner}/tolerance', {
        params: { path: { page: pageId.value, partner: known.value ?? '' } },
        body: { tolerance: percent / 100 },
      }),
    ),
  onSuccess: again,
})
const remove = useMutation({
  mutationFn: () =>
    take(
      api.DELETE('/api/pages/{page}/partners/{partner}', {
        params: { path: { page: pageId.value, partner: known.value ?? '' } },
      }),
    ),
  onSuccess: again,
})
</script>

<template>
  <div class="view">
    <RouterLink class="back" :to="{ name: 'readings', params: { page: pageId } }">
      <ArrowLeft aria-hidden="true" /> {{ $t('readings.allReadings') }}
    </RouterLink>
    <div class="view-head">
      <div>
        <h1>{{ $t('partners.partners') }}</h1>
        <p>{{ $t('partners.intro') }}</p>
      </div>
      <div v-if="compared" class="choose">
        <Select
          v-if="(partners?.length ?? 0) > 1"
          v-model="chosen"
          :options="partners"
          option-value="id"
          option-label="name"
          size="small"
          :aria-label="$t('partners.partner')"
        />
        <RangeChoice
          v-model:range="range"
          v-model:compare="compare"
          :from="compared.from"
          :to="compared.to"
          alone
        />
      </div>
    </div>
    <p v-if="error ?? wrong" class="notice" role="alert">{{ (error ?? wrong)?.message }}</p>
    <div v-else-if="!partners" aria-busy="true"><Skeleton height="200px" /></div>
    <section v-if="compared" aria-labelledby="compared-title">
      <h2 id="compared-title">{{ compared.name }}</h2>
      <p class="answer">{{ says }}</p>
      <PartnerLines v-if="compared.lines.length" :of="compared" />
      <div class="settings">
        <label for="partner-tolerance">{{ $t('partners.tolerance') }}</label>
        <InputNumber
          :model-value="Math.round(100 * compared.tolerance)"
          input-id="partner-tolerance"
          :min="0"
          :max="100"
          size="small"
          :disabled="!may.edit.value"
          suffix=" %"
          @update:model-value="$event !== null && tolerance.mutate(Number($event))"
        />
        <Button
          v-if="may.edit.value"
          size="small"
          text
          severity="secondary"
          :label="$t('partners.remove', { name: compared.name })"
          @click="remove.mutate()"
        />
      </div>
      <template v-if="compared.lines.length">
        <h3>{{ $t('partners.toSend') }}</h3>
        <pre tabindex="0" role="region" :aria-label="$t('partners.toSend')">{{ text }}</pre>
        <Button size="small" severity="secondary" @click="copy(text, $t('partners.theText'))">
          <Copy aria-hidden="true" /> {{ $t('common.copy') }}
        </Button>
      </template>
    </section>
    <section v-if="partners && may.edit.value" aria-labelledby="report-title">
      <h2 id="report-title">{{ $t('partners.takeIn') }}</h2>
      <ReportFile :page-id="pageId" :names="partners.map(({ name }) => name)" @kept="chosen = $event" />
    </section>
  </div>
</template>

<style scoped>
.choose {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.answer {
  font-size: 1.1rem;
  margin: 4px 0 12px;
}
section + section {
  margin-top: 32px;
}
h2 {
  margin-bottom: 10px;
}
h3 {
  font-size: 1rem;
  margin: 18px 0 6px;
}
.settings {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  margin-top: 12px;
}
.settings :deep(input) {
  width: 5.5rem;
}
pre {
  white-space: pre-wrap;
  font: inherit;
  font-size: 0.9rem;
  border: 1px solid var(--line);
  background: var(--surface);
  padding: 12px 14px;
  max-width: 46rem;
  max-height: 20rem;
  overflow: auto;
}
svg {
  width: 15px;
  height: 15px;
}
</style>
