<script setup lang="ts">
import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { useConfirm } from 'primevue/useconfirm'
import { computed } from 'vue'
import { api, take, type PaymentView } from '@/api/client'
import { paymentsQuery } from '@/api/queries'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { timeHere } from '@/shell/moments'
import { useMay } from '@/team/useMay'
import { canGiveBack, stateWords } from './incomeWords'

/** Payments that were made or failed, the latest first. */
const client = useQueryClient()
const confirm = useConfirm()
const may = useMay()
const { data, error, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery(paymentsQuery())
const list = computed(() => data.value?.pages.flatMap(({ items }) => items) ?? [])

const giveBack = useMutation({
  mutationFn: ({ id, kept }: PaymentView) =>
    take(
      api.POST('/api/payments/{payment}/back', {
        params: { path: { payment: id } },
        body: { minor: kept.minor },
      }),
    ),
  // That it was given back is known once the service says so.
  onSettled: () => setTimeout(() => void client.invalidateQueries({ queryKey: ['income'] }), 1200),
})
const askToGiveBack = (one: PaymentView) =>
  confirm.require({
    header: t('income.giveBackAsked', { amount: one.shown }),
    message: t('income.givenBackByTheService'),
    acceptProps: { label: t('income.giveBack'), severity: 'danger' },
    rejectProps: { label: t('common.cancel'), severity: 'secondary', text: true },
    accept: () => giveBack.mutate(one),
  })
</script>

<template>
  <section :aria-label="$t('income.payments')">
    <WrongText :text="(error ?? giveBack.error.value)?.message" />
    <p v-if="data && !list.length" class="soft">{{ $t('income.noPayments') }}</p>
    <ul v-if="list.length">
      <li v-for="one in list" :key="one.id">
        <strong class="sum" :class="one.state">{{ one.shown }}</strong>
        <div>
          <span>{{ one.block || one.pageName }}</span>
          <q v-if="one.word">{{ one.word }}</q>
          <small>
            {{ stateWords(one) }} · {{ one.source || $t('common.untagged') }} · {{ timeHere(one.begunAt)
            }}<template v-if="one.own"> · {{ $t('signUps.yourOwn') }}</template>
          </small>
        </div>
        <Button
          v-if="may.run.value && canGiveBack(one)"
          size="small"
          severity="secondary"
          text
          :label="$t('income.giveBack')"
          :aria-label="$t('income.giveBackWhich', { amount: one.shown, what: one.block })"
          @click="askToGiveBack(one)"
        />
      </li>
    </ul>
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
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  width: 100%;
}
li {
  display: grid;
  grid-template-columns: 5.5rem minmax(0, 1fr) auto;
  gap: 4px 14px;
  align-items: baseline;
  padding: 10px 0;
  border-bottom: 1px solid var(--line);
}
.sum {
  font-variant-numeric: tabular-nums;
  font-size: 1.05rem;
  text-align: end;
}
.sum.failed,
.sum.given_back {
  text-decoration: line-through;
  color: var(--ink-soft);
  font-weight: 400;
}
div > span,
q,
small {
  display: block;
  overflow-wrap: anywhere;
}
q {
  font-style: italic;
}
small {
  color: var(--ink-soft);
}
@media (max-width: 720px) {
  li {
    grid-template-columns: auto minmax(0, 1fr);
  }
  .sum {
    text-align: start;
  }
  li :deep(.p-button) {
    grid-column: 2;
    justify-self: start;
    margin-left: -10px;
  }
}
</style>
