<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { bookingCountsQuery } from '@/api/queries'
import TableLink from '@/shell/TableLink.vue'
import BookingList from './BookingList.vue'

/** Times that visitors asked for: what waits for an answer, and what is to come. */
const { data: counts } = useQuery(bookingCountsQuery())
const any = computed(() => !!counts.value && counts.value.waiting + counts.value.coming > 0)
</script>

<template>
  <div class="view">
    <div class="view-head">
      <div>
        <h1>{{ $t('bookings.bookings') }}</h1>
        <p v-if="any" class="sums">
          <span
            ><strong>{{ counts?.waiting }}</strong> {{ $t('bookings.waitForYou') }}</span
          >
          <span
            ><strong>{{ counts?.coming }}</strong> {{ $t('bookings.areToCome') }}</span
          >
        </p>
        <p v-else-if="counts">{{ $t('bookings.nothingYet') }}</p>
      </div>
      <TableLink href="/api/bookings.csv" />
    </div>
    <BookingList />
    <p class="soft kept">{{ $t('bookings.howLongKept') }}</p>
  </div>
</template>

<style scoped>
.sums {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 20px;
}
.kept {
  margin-top: 20px;
  max-width: 44rem;
}
</style>
