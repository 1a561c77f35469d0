<script setup lang="ts">
import { useInfiniteQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed } from 'vue'
import type { JournalView } from '@/api/client'
import { journalQuery } from '@/api/queries'
import WrongText from '@/fields/WrongText.vue'
import { formatsOf } from '@/i18n'
import { useZone } from '@/shell/useZone'
import { journalWords } from './journalWords'

/** Who did what, day by day, the latest first. */
const zone = useZone()
const { data, error, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery(journalQuery())
const dayOf = (at: string) =>
  new Date(at).toLocaleDateString(formatsOf(), { dateStyle: 'full', timeZone: zone.value })
const time = (at: string) =>
  new Date(at).toLocaleTimeString(formatsOf(), { timeStyle: 'short', timeZone: zone.value })
const days = computed(() => {
  const entries = (data.value?.pages ?? []).flatMap(({ items }) => items)
  const found: { day: string; list: JournalView[] }[] = []
  for (const entry of entries) {
    const day = dayOf(entry.last)
    if (found.at(-1)?.day !== day) found.push({ day, list: [] })
    found.at(-1)?.list.push(entry)
  }
  return found
})
</script>

<template>
  <section :aria-label="$t('journal.journal')">
    <WrongText :text="error?.message" />
    <div v-for="{ day, list } in days" :key="day" class="day">
      <h2>{{ day }}</h2>
      <ul class="account-list">
        <li v-for="entry in list" :key="entry.id">
          <div>
            {{ journalWords(entry) }}
            <small>{{ entry.who }}</small>
          </div>
          <time :datetime="entry.last">{{ time(entry.last) }}</time>
        </li>
      </ul>
    </div>
    <Button
      v-if="hasNextPage"
      severity="secondary"
      size="small"
      :label="$t('journal.earlier')"
      :loading="isFetchingNextPage"
      @click="fetchNextPage()"
    />
  </section>
</template>

<style scoped>
.day {
  width: 100%;
}
h2 {
  margin: 8px 0 0;
  font-size: 0.95rem;
}
time {
  color: var(--ink-soft);
  font-variant-numeric: tabular-nums;
}
</style>
