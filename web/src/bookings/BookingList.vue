<script setup lang="ts">
import { useInfiniteQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed } from 'vue'
import { bookingsQuery } from '@/api/queries'
import FieldChoice from '@/fields/FieldChoice.vue'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { useInAddress } from '@/shell/useInAddress'
import BookingRow from './BookingRow.vue'
import { byDay } from './bookingWords'

/** Times day by day: to answer one, it is seen what else there is on its day. */
const WHICH = [
  { value: 'ahead', label: t('bookings.ahead') },
  { value: 'waiting', label: t('bookings.waiting') },
  { value: 'over', label: t('bookings.over') },
] as const
const chosen = useInAddress('which', 'ahead')
const which = computed({
  get: () => WHICH.find(({ value }) => value === chosen.value)?.value ?? 'ahead',
  set: (value) => (chosen.value = value),
})
const { data, error, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery(bookingsQuery(which))
const days = computed(() => byDay(data.value?.pages.flatMap(({ items }) => items) ?? []))
</script>

<template>
  <section :aria-label="$t('bookings.bookings')">
    <FieldChoice v-model="which" :label="$t('bookings.show')" :options="WHICH" />
    <WrongText :text="error?.message" />
    <p v-if="data && !days.length" class="soft">{{ $t('bookings.none') }}</p>
    <div v-for="day in days" :key="day.day" class="day">
      <h2>{{ day.day }}</h2>
      <ul>
        <BookingRow v-for="one in day.times" :key="one.id" :one />
      </ul>
    </div>
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
  gap: 18px;
  justify-items: start;
  max-width: 52rem;
}
.day {
  width: 100%;
}
h2 {
  font-size: 1rem;
  margin: 0;
  padding-bottom: 6px;
  border-bottom: 1px solid var(--line-strong);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
</style>
