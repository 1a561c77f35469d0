<script setup lang="ts">
import { Trash2 } from '@lucide/vue'
import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/vue-query'
import { watchDebounced } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { useConfirm } from 'primevue/useconfirm'
import { computed, ref } from 'vue'
import { api, take, type SignUpView } from '@/api/client'
import { signUpsQuery } from '@/api/queries'
import FieldChoice from '@/fields/FieldChoice.vue'
import ToolButton from '@/fields/ToolButton.vue'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { timeHere } from '@/shell/moments'
import { useInAddress } from '@/shell/useInAddress'
import { stateWords } from './signUpWords'

/** People who left an address, the latest first. */
const client = useQueryClient()
const confirm = useConfirm()
const WHICH = [
  { value: '', label: t('signUps.all') },
  { value: 'confirmed', label: t('signUps.confirmed') },
  { value: 'waiting', label: t('signUps.waiting') },
] as const
const chosen = useInAddress('only', '')
const only = computed({
  get: () => WHICH.find(({ value }) => value === chosen.value)?.value ?? '',
  set: (value) => (chosen.value = value),
})
const find = ref('')
const looked = ref('')
watchDebounced(find, (text) => (looked.value = text.trim()), { debounce: 300 })
const { data, error, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery(
  signUpsQuery(only, looked),
)
const list = computed(() => data.value?.pages.flatMap(({ items }) => items) ?? [])

const remove = useMutation({
  mutationFn: (signUp: string) =>
    take(api.DELETE('/api/sign-ups/{signUp}', { params: { path: { signUp } } })),
  onSettled: () => client.invalidateQueries({ queryKey: ['sign-ups'] }),
})
const askToRemove = (one: SignUpView) =>
  confirm.require({
    header: t('signUps.eraseAsked', { address: one.address }),
    message: t('signUps.erasedForGood'),
    acceptProps: { label: t('signUps.erase'), severity: 'danger' },
    rejectProps: { label: t('common.cancel'), severity: 'secondary', text: true },
    accept: () => remove.mutate(one.id),
  })
</script>

<template>
  <section :aria-label="$t('signUps.signUps')">
    <div class="find">
      <FieldChoice v-model="only" :label="$t('signUps.show')" :options="WHICH" />
      <InputText
        v-model="find"
        type="search"
        :maxlength="254"
        :placeholder="$t('signUps.findAnAddress')"
        :aria-label="$t('signUps.findAnAddress')"
      />
    </div>
    <WrongText :text="(error ?? remove.error.value)?.message" />
    <p v-if="data && !list.length" class="soft">{{ $t('signUps.noneFound') }}</p>
    <table v-if="list.length">
      <thead>
        <tr>
          <th scope="col">{{ $t('signUps.address') }}</th>
          <th scope="col">{{ $t('signUps.cameFrom') }}</th>
          <th scope="col">{{ $t('signUps.leftAt') }}</th>
          <th scope="col">{{ $t('signUps.state') }}</th>
          <th scope="col">
            <span class="visually-hidden">{{ $t('signUps.erase') }}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in list" :key="one.id">
          <th scope="row">
            {{ one.address }}<small v-if="one.own">{{ $t('signUps.yourOwn') }}</small>
          </th>
          <td :class="{ soft: !one.source }">{{ one.source || $t('common.untagged') }}</td>
          <td>
            <details v-if="one.consent">
              <summary>{{ one.block || one.pageName }}</summary>
              <small>{{ $t('signUps.agreedTo', { what: one.consent }) }}</small>
            </details>
            <template v-else>{{ one.block || one.pageName }}</template>
            <small>{{ one.pageName }}, {{ timeHere(one.askedAt) }}</small>
          </td>
          <td :class="{ waits: !one.confirmedAt }">{{ stateWords(one) }}</td>
          <td class="act">
            <ToolButton
              :icon="Trash2"
              :label="$t('signUps.eraseWhich', { address: one.address })"
              @click="askToRemove(one)"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <Button
      v-if="hasNextPage"
      severity="secondary"
      size="small"
      :label="$t('common.showMore')"
      :loading="isFetchingNextPage"
      @click="fetchNextPage()"
    />
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 14px;
  justify-items: start;
}
.find {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 16px;
  align-items: end;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  padding: 9px 12px 9px 0;
  border-bottom: 1px solid var(--line);
  text-align: start;
  vertical-align: top;
}
thead th {
  font-size: 0.82rem;
  font-weight: 600;
  color: var(--ink-soft);
}
tbody th {
  min-width: 16rem;
  font-weight: 600;
  overflow-wrap: anywhere;
}
small {
  display: block;
  font-weight: 400;
  color: var(--ink-soft);
}
summary {
  cursor: pointer;
}
.waits {
  color: var(--warn-ink, var(--ink-soft));
}
.act {
  width: 1%;
  padding-right: 0;
}
@media (max-width: 46rem) {
  thead {
    position: absolute;
    clip-path: inset(50%);
  }
  tbody tr {
    display: grid;
    grid-template-columns: 1fr auto;
    padding: 10px 0;
    border-bottom: 1px solid var(--line);
  }
  tbody th,
  tbody td {
    grid-column: 1;
    padding: 1px 0;
    border: 0;
    width: auto;
  }
  .act {
    grid-area: 1 / 2 / 3;
  }
}
</style>
