<script setup lang="ts">
import { Download } from '@lucide/vue'
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { incomeQuery } from '@/api/queries'
import { useMay } from '@/team/useMay'
import PaymentList from './PaymentList.vue'
import PaymentService from './PaymentService.vue'

/** What visitors paid, and by which service they do. */
const may = useMay()
const { data: income } = useQuery(incomeQuery())
const any = computed(() => !!income.value?.taken.length)
</script>

<template>
  <div class="view">
    <div class="view-head">
      <div>
        <h1>{{ $t('income.income') }}</h1>
        <p v-if="any" class="sums">
          <span v-for="sum in income?.taken" :key="sum.currency">
            <strong>{{ sum.shown }}</strong> {{ $t('income.inPayments', { n: sum.times }, sum.times) }}
          </span>
        </p>
        <p v-else-if="income">{{ $t('income.nothingYet') }}</p>
      </div>
      <a v-if="any" class="save" href="/api/payments.csv" download>
        <Download aria-hidden="true" /> {{ $t('signUps.asTable') }}
      </a>
    </div>
    <div class="parts">
      <PaymentList />
      <PaymentService v-if="may.run.value" />
    </div>
  </div>
</template>

<style scoped>
.sums {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 20px;
}
.save {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  padding: 4px 12px;
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  background: var(--surface);
  color: var(--ink);
  text-decoration: none;
  font-size: 0.875rem;
}
.save svg {
  width: 15px;
  height: 15px;
}
.parts {
  display: grid;
  gap: 28px 36px;
  align-items: start;
}
@media (min-width: 64rem) {
  .parts:has(> :nth-child(2)) {
    grid-template-columns: minmax(0, 1fr) 19rem;
  }
}
</style>
