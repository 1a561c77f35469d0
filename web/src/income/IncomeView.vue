<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { incomeQuery } from '@/api/queries'
import TableLink from '@/shell/TableLink.vue'
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
      <TableLink v-if="any" href="/api/payments.csv" />
    </div>
    <div class="list-and-service">
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
</style>
