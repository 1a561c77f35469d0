<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import Textarea from 'primevue/textarea'
import { useToast } from 'primevue/usetoast'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { bare } from './shortLinks'

/** Many short links out of a list: read first, shown with what is wrong, made when asked to. */
const shown = defineModel<boolean>({ required: true })
const client = useQueryClient()
const toast = useToast()
const text = ref('')

const {
  mutate: read,
  reset,
  data: rows,
  error,
  isPending,
} = useMutation({
  mutationFn: (keep: boolean) => take(api.POST('/api/link-list', { body: { text: text.value, keep } })),
  onSuccess: async (rows, keep) => {
    if (!keep) return
    await client.invalidateQueries({ queryKey: ['short-links'] })
    const wrong = rows.filter((row) => row.wrong)
    toast.add({
      severity: wrong.length ? 'warn' : 'success',
      summary: t('shelf.linksMade', rows.length - wrong.length),
      detail: wrong.length ? t('shelf.rowsCouldNotBe', wrong.length) : undefined,
      life: 4000,
    })
    if (!wrong.length) return leave()
    // What was made is not made again: the rows that are wrong stay, to be put right.
    const lines = text.value.split('\n')
    const head = rows[0]!.row > 1 ? lines.slice(0, rows[0]!.row - 1) : []
    text.value = [...head, ...wrong.map(({ row }) => lines[row - 1] ?? '')].join('\n')
    read(false)
  },
})
const good = computed(() => rows.value?.filter((row) => !row.wrong).length ?? 0)

/** The part of the short address behind the host, which is the same for all. */
const short = (row: { shortAddress?: string; wrong?: string }) =>
  row.shortAddress?.split('/').at(-1) ?? (row.wrong ? '–' : t('shelf.madeForYou'))

function leave() {
  shown.value = false
  text.value = ''
  reset()
}
async function load(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  if (!file) return
  text.value = await file.text()
  input.value = '' // the same file can be chosen again once it is corrected
  read(false)
}
</script>

<template>
  <Dialog
    v-model:visible="shown"
    modal
    :header="$t('shelf.shortLinksFromAList')"
    class="from-list"
    @hide="leave"
  >
    <form @submit.prevent="read(false)">
      <div class="field">
        <label for="list-text">{{ $t('shelf.oneALineDestinationShort') }}</label>
        <Textarea
          id="list-text"
          v-model="text"
          rows="6"
          spellcheck="false"
          :placeholder="$t('shelf.httpsYourSiteExampleDatesDates')"
          aria-describedby="list-says"
          @update:model-value="reset()"
        />
        <p id="list-says" class="hint">
          {{ $t('shelf.onlyTheDestination') }}
          <label class="file"
            >{{ $t('shelf.chooseAFile')
            }}<input
              class="visually-hidden"
              type="file"
              accept=".csv,.tsv,.txt,text/csv,text/plain"
              @change="load"
          /></label>
        </p>
      </div>
      <WrongText :text="error?.message" />
      <p v-if="rows?.length === 0" class="wrong" role="alert">
        {{ $t('shelf.thereIsNoRow') }}
      </p>
      <table v-if="rows?.length">
        <caption class="visually-hidden">
          {{
            $t('shelf.whatTheListSays')
          }}
        </caption>
        <thead>
          <tr>
            <th scope="col">{{ $t('shelf.row') }}</th>
            <th scope="col">{{ $t('shelf.shortAddress') }}</th>
            <th scope="col">{{ $t('common.leadsTo') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.row" :class="{ bad: row.wrong }">
            <td>{{ row.row }}</td>
            <td>{{ short(row) }}</td>
            <td>
              {{ bare(row.destination) }}<span v-if="row.wrong" class="wrong">{{ row.wrong }}</span>
            </td>
          </tr>
        </tbody>
      </table>
      <div class="acts">
        <Button
          type="submit"
          :label="$t('shelf.readTheList')"
          :severity="good ? 'secondary' : undefined"
          :disabled="!text.trim()"
          :loading="isPending"
        />
        <Button v-if="good" :label="$t('shelf.makeLinks', good)" @click="read(true)" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
form {
  display: grid;
  gap: 14px;
  width: min(46rem, 86vw);
}
table {
  border-collapse: collapse;
  display: block;
  max-height: 40vh;
  overflow: auto;
}
th {
  text-align: left;
}
td,
th {
  padding: 4px 14px 4px 0;
  border-bottom: 1px solid var(--line);
  vertical-align: top;
  overflow-wrap: anywhere;
}
td:first-child,
th {
  white-space: nowrap;
}
td:nth-child(2) {
  min-width: 9rem;
}
td .wrong {
  display: block;
}
.wrong {
  color: var(--danger);
}
.file {
  color: var(--accent);
  font-weight: 600;
  text-decoration: underline;
  cursor: pointer;
}
.file:focus-within {
  outline: 2px solid var(--accent);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
