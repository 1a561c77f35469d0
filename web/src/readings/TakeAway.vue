<script setup lang="ts">
import { Download } from '@lucide/vue'
import Button from 'primevue/button'
import ProgressBar from 'primevue/progressbar'
import Select from 'primevue/select'
import { computed, onScopeDispose, ref } from 'vue'
import FieldChoice from '@/fields/FieldChoice.vue'
import { count } from '@/figures'
import { t } from '@/i18n'
import { readLines, type Progress } from './takingEvents'

/** Figures to take along: any table, the raw events, and a page to print. */
const props = defineProps<{ pageId: string; range: string }>()

const TABLES = [
  { value: 'buttons', label: t('readings.buttonsBySources') },
  { value: 'buttons-by-day', label: t('readings.tableButtonsByDay') },
  { value: 'links', label: t('readings.tableLinks') },
  { value: 'days', label: t('readings.tableDays') },
  { value: 'sources', label: t('readings.tableSources') },
  { value: 'places', label: t('readings.tablePlaces') },
  { value: 'evidence', label: t('readings.tableEvidence') },
  { value: 'countries', label: t('readings.countries') },
  { value: 'languages', label: t('readings.languages') },
  { value: 'devices', label: t('readings.devices') },
  { value: 'payment', label: t('readings.payment') },
  { value: 'left-out', label: t('readings.keptAndNotCounted') },
]
const FORMATS = [
  { value: 'csv', label: 'CSV' },
  { value: 'ndjson', label: 'NDJSON' },
] as const
const table = ref('buttons')
const format = ref<'csv' | 'ndjson'>('csv')
const query = computed(() => new URLSearchParams({ range: props.range, format: format.value }).toString())
const address = computed(() => `/api/pages/${props.pageId}/readings/tables/${table.value}?${query.value}`)

const progress = ref<Progress>()
const wrong = ref('')
let taking: AbortController | undefined
onScopeDispose(() => taking?.abort())

async function takeEvents() {
  taking = new AbortController()
  wrong.value = ''
  progress.value = { came: 0, of: 0 }
  try {
    const answer = await fetch(`/api/pages/${props.pageId}/events?${query.value}`, { signal: taking.signal })
    if (!answer.ok || !answer.body) {
      const problem = (await answer.json().catch(() => ({}))) as { detail?: string }
      throw new Error(problem.detail ?? t('readings.eventsFailed'))
    }
    const of = Number(answer.headers.get('X-Total-Count'))
    const file = await readLines(answer.body, (came) => (progress.value = { came, of }))
    save(file, /filename="([^"]+)"/.exec(answer.headers.get('Content-Disposition') ?? '')?.[1] ?? 'events')
  } catch (error) {
    if (!taking.signal.aborted) wrong.value = error instanceof Error ? error.message : String(error)
  } finally {
    progress.value = undefined
  }
}

function save(file: Blob, name: string) {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(file)
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}
const done = computed(() =>
  progress.value?.of ? Math.min(100, Math.round((100 * progress.value.came) / progress.value.of)) : 0,
)
</script>

<template>
  <section aria-labelledby="take-title">
    <h2 id="take-title">{{ $t('readings.takeItAlong') }}</h2>
    <div class="take">
      <Select
        v-model="table"
        :options="TABLES"
        option-value="value"
        option-label="label"
        size="small"
        :aria-label="$t('readings.whichTable')"
      />
      <FieldChoice v-model="format" :label="$t('readings.asFile')" :options="FORMATS" />
      <Button as="a" :href="address" download size="small" severity="secondary">
        <Download aria-hidden="true" /> {{ $t('readings.takeTable') }}
      </Button>
      <Button size="small" severity="secondary" :disabled="Boolean(progress)" @click="takeEvents">
        <Download aria-hidden="true" /> {{ $t('readings.takeEvents') }}
      </Button>
      <RouterLink class="print" :to="{ name: 'summary', params: { page: pageId }, query: { range } }">{{
        $t('readings.pageToPrint')
      }}</RouterLink>
      <RouterLink class="print" :to="{ name: 'partners', params: { page: pageId }, query: { range } }">{{
        $t('readings.againstPartner')
      }}</RouterLink>
    </div>
    <div v-if="progress" class="progress" role="status">
      <ProgressBar :value="done" :show-value="false" :aria-label="$t('readings.eventsComing')" />
      <span>{{
        progress.of
          ? $t('readings.eventsOf', { came: count(progress.came), of: count(progress.of) })
          : $t('readings.eventsComing')
      }}</span>
      <Button size="small" text :label="$t('readings.stop')" @click="taking?.abort()" />
    </div>
    <p v-if="wrong" class="notice" role="alert">{{ wrong }}</p>
    <p class="soft small">{{ $t('readings.takeSays') }}</p>
  </section>
</template>

<style scoped>
h2 {
  margin-bottom: 10px;
}
.take {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 14px;
  align-items: end;
}
.take svg {
  width: 15px;
  height: 15px;
}
.print {
  padding: 6px 0;
}
.progress {
  display: grid;
  grid-template-columns: minmax(8rem, 22rem) auto auto;
  justify-content: start;
  gap: 12px;
  align-items: center;
  margin-top: 10px;
}
</style>
