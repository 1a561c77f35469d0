<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import SelectButton from 'primevue/selectbutton'
import { useToast } from 'primevue/usetoast'
import { computed, ref, watch } from 'vue'
import { api, take, type ManyChange, type ManyPlan } from '@/api/client'
import { destinationChangesQuery } from '@/api/queries'
import { momentWords } from '@/arrange/stateWords'
import FieldText from '@/fields/FieldText.vue'
import WrongText from '@/fields/WrongText.vue'
import { count } from '@/figures'
import { t } from '@/i18n'
import { useZone } from '@/shell/useZone'

/** Changes all destinations that are listed: shown whole before, made in one step, and undone in one. */
const shown = defineModel<boolean>({ required: true })
const props = defineProps<{ search: string }>()
const client = useQueryClient()
const toast = useToast()
const zone = useZone()
const { data: earlier } = useQuery({ ...destinationChangesQuery(), enabled: shown })
const last = computed(() => earlier.value?.find(({ undoneAt }) => !undoneAt))

const PARTS = [
  { value: 'host', label: t('shelf.manyHost') },
  { value: 'parameter', label: t('shelf.manyParameter') },
  { value: 'labels', label: t('shelf.labels') },
] as const
const part = ref<(typeof PARTS)[number]['value']>('host')
const said = ref({ from: '', to: '', name: '', add: '', remove: '' })
const labels = (text: string) => text.split(',').map((label) => label.trim()).filter(Boolean) // prettier-ignore
const change = computed<ManyChange>(() => {
  const { from, to, name, add, remove } = said.value
  if (part.value === 'host') return { host: { from, to } }
  if (part.value === 'parameter') return { parameter: { name, from, to } }
  return { addLabels: labels(add), removeLabels: labels(remove) }
})

const plan = ref<ManyPlan>()
watch([change, () => props.search], () => {
  plan.value = undefined
  ask.reset()
})
const ask = useMutation({
  mutationFn: (digest?: string) =>
    take(
      api.POST('/api/destination-changes', { body: { search: props.search, change: change.value, digest } }),
    ),
  onSuccess: async (found) => {
    plan.value = found
    if (!found.changed) return
    const { id, count: n } = found.changed
    toast.add({ severity: 'success', summary: t('shelf.manyChanged', { n: count(n) }, n), life: 6000 })
    done.value = id
    await client.invalidateQueries()
  },
})
/** The change that was just made. */
const done = ref<string>()
const undo = useMutation({
  mutationFn: (id: string) =>
    take(api.POST('/api/destination-changes/{change}/undo', { params: { path: { change: id } } })),
  onSuccess: async ({ back, stay }) => {
    const detail = stay ? t('shelf.manyStay', { n: count(stay) }, stay) : undefined
    toast.add({
      severity: 'success',
      summary: t('shelf.manyBack', { n: count(back) }, back),
      detail,
      life: 6000,
    })
    plan.value = done.value = undefined
    await client.invalidateQueries()
  },
})
const possible = computed(() => plan.value?.rows.filter(({ wrong }) => !wrong).length ?? 0)

function leave() {
  plan.value = done.value = undefined
  ask.reset()
  undo.reset()
}
</script>

<template>
  <Dialog
    v-model:visible="shown"
    modal
    :header="$t('shelf.changeMany')"
    :style="{ width: '52rem' }"
    :breakpoints="{ '900px': '94vw' }"
    @hide="leave"
  >
    <div class="steps">
      <p>{{ search ? $t('shelf.manyFound', { search }) : $t('shelf.manyAll') }}</p>
      <p v-if="last && !done" class="line">
        <span class="soft">{{
          $t('shelf.manyLast', { n: count(last.count), at: momentWords(last.at, zone) }, last.count)
        }}</span>
        <Button
          size="small"
          severity="secondary"
          text
          :label="$t('shelf.undoIt')"
          :loading="undo.isPending.value"
          @click="undo.mutate(last.id)"
        />
      </p>
      <template v-if="!done">
        <SelectButton
          v-model="part"
          :options="[...PARTS]"
          option-value="value"
          option-label="label"
          :allow-empty="false"
          :aria-label="$t('shelf.whatIsChanged')"
        />
        <form class="fields" @submit.prevent="ask.mutate(undefined)">
          <template v-if="part === 'host'">
            <FieldText
              v-model="said.from"
              :label="$t('shelf.hostNow')"
              :placeholder="$t('shelf.exampleHost')"
            />
            <FieldText
              v-model="said.to"
              :label="$t('shelf.hostThen')"
              :placeholder="$t('shelf.exampleNewHost')"
            />
          </template>
          <template v-else-if="part === 'parameter'">
            <FieldText
              v-model="said.name"
              :label="$t('shelf.parameter')"
              :placeholder="$t('shelf.exampleParameter')"
            />
            <FieldText
              v-model="said.from"
              :label="$t('shelf.valueNow')"
              :placeholder="$t('shelf.anyValue')"
            />
            <FieldText v-model="said.to" :label="$t('shelf.valueThen')" :placeholder="$t('shelf.takenOut')" />
          </template>
          <template v-else>
            <FieldText v-model="said.add" :label="$t('shelf.addLabels')" />
            <FieldText v-model="said.remove" :label="$t('shelf.removeLabels')" />
          </template>
          <Button
            type="submit"
            size="small"
            severity="secondary"
            :label="$t('shelf.showWhatChanges')"
            :loading="ask.isPending.value && !plan"
          />
        </form>
      </template>
      <WrongText :text="(ask.error.value ?? undo.error.value)?.message" />
      <template v-if="plan">
        <p v-if="plan.stale" class="notice">{{ $t('shelf.manyStale') }}</p>
        <p v-if="plan.more" class="notice">{{ $t('shelf.manyMore') }}</p>
        <p v-if="!plan.rows.length" class="soft">{{ $t('shelf.manyNone') }}</p>
        <div v-else class="table" tabindex="0" role="region" :aria-label="$t('shelf.beforeAndAfter')">
          <table>
            <thead>
              <tr>
                <th scope="col">{{ $t('shelf.destination') }}</th>
                <th scope="col">{{ $t('shelf.before') }}</th>
                <th scope="col">{{ $t('shelf.after') }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="row in plan.rows" :key="row.id" :class="{ wrong: row.wrong }">
                <th scope="row">{{ row.title }}</th>
                <td>{{ part === 'labels' ? row.before.labels.join(', ') || '–' : row.before.address }}</td>
                <td v-if="row.wrong" class="amber">{{ row.wrong }}</td>
                <td v-else>
                  {{ part === 'labels' ? row.after.labels.join(', ') || '–' : row.after.address }}
                </td>
              </tr>
            </tbody>
          </table>
        </div>
        <Button
          v-if="!done && possible"
          class="do"
          :label="$t('shelf.changeThem', { n: count(possible) }, possible)"
          :loading="ask.isPending.value"
          @click="ask.mutate(plan.digest)"
        />
        <Button
          v-if="done"
          class="do"
          severity="secondary"
          :label="$t('shelf.undoIt')"
          :loading="undo.isPending.value"
          @click="undo.mutate(done)"
        />
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
  gap: 4px 12px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(13rem, 1fr));
  gap: 10px 14px;
  align-items: end;
}
.table {
  max-height: 22rem;
  overflow: auto;
  border: 1px solid var(--line);
  border-radius: 6px;
}
table {
  width: 100%;
  border-collapse: collapse;
  font-size: 0.9rem;
}
th,
td {
  padding: 6px 10px;
  text-align: left;
  vertical-align: top;
  overflow-wrap: anywhere;
}
thead th {
  position: sticky;
  top: 0;
  background: var(--surface);
}
tbody tr {
  border-top: 1px solid var(--line);
}
tbody th {
  font-weight: 600;
  min-width: 8rem;
}
.amber {
  color: var(--amber);
}
.do {
  justify-self: start;
}
@media (max-width: 720px) {
  thead {
    display: none;
  }
  tbody th,
  tbody td {
    display: block;
    padding: 4px 10px;
  }
}
</style>
