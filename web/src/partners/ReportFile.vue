<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { computed, ref, watch } from 'vue'
import { api, take, type PartnerReading } from '@/api/client'
import FileButton from '@/fields/FileButton.vue'
import WrongText from '@/fields/WrongText.vue'
import { count, counted } from '@/figures'
import { t } from '@/i18n'

/** A partner's report to take in: what its columns are is shown and can be put right before anything is kept. */
const props = defineProps<{ pageId: string; names: string[] }>()
const emit = defineEmits<{ kept: [partner: string] }>()
const queries = useQueryClient()

const file = ref<File>()
const name = ref(props.names[0] ?? '')
const reading = ref<PartnerReading>()
type Mapping = PartnerReading['mapping']
const DAYS: { value: Mapping['days']; label: string }[] = [
  { value: 'iso', label: '2026-06-30' },
  { value: 'dmy', label: '30.06.2026' },
  { value: 'mdy', label: '06/30/2026' },
]

const read = useMutation({
  mutationFn: ({ mapping, keep }: { mapping?: Mapping; keep?: boolean }) =>
    take(
      api.POST('/api/pages/{page}/partner-reports', {
        params: { path: { page: props.pageId }, query: { name: name.value.trim(), keep, ...mapping } },
        body: file.value as unknown as string,
        bodySerializer: (body: unknown) => body as BodyInit,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    ),
  onSuccess: async (answer) => {
    reading.value = answer
    if (!answer.kept) return
    file.value = undefined
    reading.value = undefined
    await queries.invalidateQueries({ queryKey: ['partners'] })
    emit('kept', answer.kept)
  },
})
function choose(files: File[]) {
  file.value = files[0]
  reading.value = undefined
  if (file.value) read.mutate({})
}
const columns = computed(() =>
  (reading.value?.columns ?? []).map((label, value) => ({ value, label: label || String(value + 1) })),
)
function set(change: Partial<Mapping>) {
  if (reading.value) read.mutate({ mapping: { ...reading.value.mapping, ...change } })
}
const chosen = (column: number) => (column < 0 ? undefined : column)
watch(name, () => {
  // A partner who is known has columns that are known.
  if (file.value && props.names.includes(name.value.trim())) read.mutate({})
})
</script>

<template>
  <div class="report">
    <div class="field">
      <label for="partner-name">{{ $t('partners.whose') }}</label>
      <InputText
        id="partner-name"
        v-model="name"
        maxlength="80"
        autocomplete="off"
        list="partner-names"
        :placeholder="$t('partners.nameSuch')"
      />
      <datalist id="partner-names">
        <option v-for="each in names" :key="each" :value="each"></option>
      </datalist>
    </div>
    <FileButton
      :label="$t('partners.chooseReport')"
      :of="$t('partners.report')"
      accept=".csv,.txt,.tsv,text/csv"
      :busy="read.isPending.value"
      @chosen="choose"
    />
    <template v-if="reading">
      <div class="columns">
        <div v-for="part in ['day', 'subject', 'clicks'] as const" :key="part" class="field">
          <span :id="`partner-${part}`" class="label">{{
            { day: t('partners.day'), subject: t('partners.subject'), clicks: t('readings.clicks') }[part]
          }}</span>
          <Select
            :model-value="chosen(reading.mapping[part])"
            :options="columns"
            option-value="value"
            option-label="label"
            size="small"
            :placeholder="$t('partners.chooseColumn')"
            :aria-labelledby="`partner-${part}`"
            @update:model-value="set({ [part]: $event })"
          />
        </div>
        <div class="field">
          <span id="partner-days" class="label">{{ $t('partners.daysAre') }}</span>
          <Select
            :model-value="reading.mapping.days"
            :options="DAYS"
            option-value="value"
            option-label="label"
            size="small"
            aria-labelledby="partner-days"
            @update:model-value="set({ days: $event })"
          />
        </div>
      </div>
      <p role="status">
        {{
          reading.counts
            ? $t('partners.readAs', {
                clicks: counted(reading.clicks, 'click'),
                rows: count(reading.counts),
                from: reading.from,
                to: reading.to,
              })
            : $t('partners.readAsNothing')
        }}
      </p>
      <details v-if="reading.wrongs">
        <summary>{{ $t('partners.wrongRows', { n: reading.wrongs }, reading.wrongs) }}</summary>
        <ul>
          <li v-for="row in reading.wrong" :key="row.line">
            {{ $t('partners.lineN', { line: row.line }) }} {{ row.reason }}
          </li>
        </ul>
      </details>
      <Button
        :label="$t('partners.keepCounts')"
        :disabled="!reading.counts || !name.trim() || read.isPending.value"
        @click="read.mutate({ mapping: reading.mapping, keep: true })"
      />
    </template>
    <WrongText :text="read.error.value?.message" />
  </div>
</template>

<style scoped>
.report {
  display: grid;
  gap: 12px;
  justify-items: start;
}
.columns {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 14px;
}
.label {
  display: block;
  font-weight: 600;
  font-size: 0.9rem;
  margin-bottom: 4px;
}
</style>
