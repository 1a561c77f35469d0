<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import Select from 'primevue/select'
import { useToast } from 'primevue/usetoast'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import FieldText from '@/fields/FieldText.vue'
import FileButton from '@/fields/FileButton.vue'
import WrongText from '@/fields/WrongText.vue'
import { count } from '@/figures'
import { t } from '@/i18n'
import { readable } from '@/kinds/readable'
import { readLinkFile, type LinkFileReading, type Mapping } from './takeLinksIn'

/** Links out of any file: read first and shown, with what its columns are; kept when asked to, in one step. */
const shown = defineModel<boolean>({ required: true })
const client = useQueryClient()
const toast = useToast()
const file = ref<File>()
const label = ref('')
const found = ref<LinkFileReading>()
const mapping = ref<Mapping>()

const read = useMutation({
  mutationFn: (said: { mapping?: Mapping; keep?: boolean }) =>
    readLinkFile(file.value!, { ...said, label: label.value }),
  onSuccess: (reading) => {
    found.value = reading
    mapping.value = { ...reading.mapping }
    if (reading.import) void client.invalidateQueries({ queryKey: ['destinations'] })
  },
})
const undo = useMutation({
  mutationFn: (id: string) =>
    take(api.POST('/api/imports/{import}/undo', { params: { path: { import: id } } })),
  onSuccess: async ({ gone, stay }) => {
    const detail = stay ? t('shelf.undoneStay', stay) : undefined
    toast.add({ severity: 'success', summary: t('shelf.undoneGone', gone), detail, life: 6000 })
    await client.invalidateQueries({ queryKey: ['destinations'] })
    shown.value = false
  },
})
const busy = computed(() => read.isPending.value || undo.isPending.value)

function choose(chosen: File) {
  file.value = chosen
  found.value = mapping.value = undefined
  read.mutate({})
}

/** What a column may be, and what each is called. */
const parts = [
  { key: 'address', label: t('shelf.leadsToColumn') },
  { key: 'title', label: t('common.title') },
  { key: 'note', label: t('shelf.note') },
  { key: 'labels', label: t('pages.labels') },
] as const
const columns = computed(() => [
  { value: -1, label: t('shelf.noColumn') },
  ...(found.value?.columns ?? []).map((name, value) => ({ value, label: name })),
])

function set(change: Partial<Mapping>) {
  if (!mapping.value) return
  mapping.value = { ...mapping.value, ...change }
  read.mutate({ mapping: mapping.value })
}

const DELIMITERS: Record<string, string> = {
  ',': t('shelf.commas'), ';': t('shelf.semicolons'), '\t': t('shelf.tabs'), '|': t('shelf.bars'),
} // prettier-ignore
const about = computed(() => {
  if (!found.value) return ''
  const { bookmarks, delimiter, encoding, remembered } = found.value
  if (bookmarks) return t('shelf.fileOfBookmarks')
  const between = delimiter ? t('shelf.valuesBetween', { what: DELIMITERS[delimiter] }) : t('shelf.oneALine')
  return [
    t('shelf.textIn', { encoding: encoding.toUpperCase() }),
    between,
    remembered && t('shelf.asLastTime'),
  ]
    .filter(Boolean)
    .join(' · ')
})

function leave() {
  file.value = found.value = mapping.value = undefined
  label.value = ''
  read.reset()
  undo.reset()
}
</script>

<template>
  <Dialog
    v-model:visible="shown"
    modal
    :header="$t('shelf.linksFromAFile')"
    :style="{ width: '46rem' }"
    :breakpoints="{ '820px': '94vw' }"
    @hide="leave"
  >
    <div class="steps">
      <template v-if="!found?.import">
        <p class="soft">{{ $t('shelf.linksFromAFileSays') }}</p>
        <div class="line">
          <FileButton
            :label="file ? file.name : $t('shelf.chooseFile')"
            :of="$t('shelf.fileOfLinks')"
            accept=".csv,.tsv,.txt,.html,.htm,text/csv,text/plain,text/html"
            :busy="read.isPending.value && !found"
            @chosen="choose($event[0])"
          />
          <span class="soft">{{ about }}</span>
        </div>
      </template>
      <WrongText :text="(read.error.value ?? undo.error.value)?.message" />
      <template v-if="found && mapping && !found.import">
        <div v-if="!found.bookmarks" class="columns">
          <div v-for="part in parts" :key="part.key" class="field">
            <label :for="`column-${part.key}`">{{ part.label }}</label>
            <Select
              :model-value="mapping[part.key]"
              :input-id="`column-${part.key}`"
              :aria-label="part.label"
              :options="columns"
              option-value="value"
              option-label="label"
              @update:model-value="set({ [part.key]: $event })"
            />
          </div>
          <FieldSwitch
            class="whole"
            :label="$t('shelf.firstRowNames')"
            :model-value="mapping.head"
            @update:model-value="set({ head: $event })"
          />
        </div>
        <p role="status">
          <strong>{{ $t('shelf.newLinks', { n: count(found.new) }, found.new) }}</strong><template
            v-if="found.there"
            >, {{ $t('shelf.thereLinks', { n: count(found.there) }, found.there) }}</template
          ><template v-if="found.wrong"
            >,
            <span class="amber">{{
              $t('shelf.wrongRows', { n: count(found.wrong) }, found.wrong)
            }}</span></template
          >.
        </p>
        <div
          v-if="found.rows.length"
          class="rows"
          tabindex="0"
          role="region"
          :aria-label="$t('shelf.whatIsInIt')"
        >
          <table>
            <thead>
              <tr>
                <th scope="col">{{ $t('shelf.lineOfFile') }}</th>
                <th scope="col">{{ $t('common.title') }}</th>
                <th scope="col">{{ $t('common.leadsTo') }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="row in found.rows" :key="row.line" :class="{ soft: row.there }">
                <td>{{ row.line }}</td>
                <td>{{ row.title }}</td>
                <td>
                  {{ readable(row.address) }}
                  <span v-if="row.wrong" class="wrong">{{ row.wrong }}</span><span
                    v-else-if="row.there"
                    class="small"
                    >{{ $t('shelf.isThere') }}</span
                  >
                </td>
              </tr>
            </tbody>
          </table>
        </div>
        <FieldText v-model="label" :label="$t('shelf.labelForAll')" :maxlength="24" />
        <div class="line">
          <Button
            :label="$t('shelf.keepLinks', { n: count(found.new) }, found.new)"
            :disabled="!found.new || busy"
            :loading="read.isPending.value"
            @click="read.mutate({ mapping: found.bookmarks ? undefined : mapping, keep: true })"
          />
          <Button severity="secondary" text :label="$t('common.cancel')" @click="shown = false" />
        </div>
      </template>
      <template v-if="found?.import">
        <p role="status">
          <strong>{{ $t('shelf.linksKept', { n: count(found.new) }, found.new) }}</strong>
        </p>
        <div class="line">
          <Button :label="$t('shelf.done')" @click="shown = false" />
          <Button
            severity="secondary"
            :label="$t('shelf.takeThemOut')"
            :loading="undo.isPending.value"
            @click="undo.mutate(found.import)"
          />
        </div>
      </template>
    </div>
  </Dialog>
</template>

<style scoped>
.steps {
  display: grid;
  gap: 14px;
}
p {
  margin: 0;
}
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 14px;
}
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(9rem, 1fr));
  gap: 12px;
  align-items: end;
}
.rows {
  max-height: 34vh;
  overflow: auto;
  border: 1px solid var(--line);
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: left;
  padding: 4px 12px;
  border-bottom: 1px solid var(--line);
  vertical-align: top;
}
th {
  white-space: nowrap;
}
td:nth-child(2) {
  min-width: 9rem;
}
td:last-child {
  min-width: 12rem;
  overflow-wrap: anywhere;
}
.whole {
  grid-column: 1 / -1;
}
td:first-child {
  font-variant-numeric: tabular-nums;
}
.wrong {
  display: block;
  color: var(--danger);
}
.amber {
  color: var(--amber);
}
</style>
