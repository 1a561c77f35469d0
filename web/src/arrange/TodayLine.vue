<script setup lang="ts">
import { computed } from 'vue'
import type { ReadingsView } from '@/api/client'
import { counted } from '@/figures'
import { usePageStore } from '@/page/pageStore'
import { useSession } from '@/session'

/** Today’s figures in a line, on a phone. */
const props = defineProps<{ view?: ReadingsView }>()
const page = usePageStore()
const dateNow = new Intl.DateTimeFormat('en-CA', { timeZone: useSession().me?.zone })
/** Today apart from the range, or the last day of one that has today in it. */
const today = computed(() => {
  if (props.view?.today) return props.view.today
  const last = props.view?.days.at(-1)
  return last?.date === dateNow.format(new Date()) ? last : undefined
})
</script>

<template>
  <p class="today">
    <RouterLink
      v-if="today && page.state"
      :to="{ name: 'readings', params: { page: page.state.id }, query: { range: 'today' } }"
      >{{
        $t('arrange.today', {
          visits: counted(today.visits, 'visit'),
          clicks: counted(today.clicks, 'click'),
        })
      }}</RouterLink
    >
  </p>
</template>

<style scoped>
.today {
  display: none;
}
@media (max-width: 720px) {
  .today {
    display: block;
    min-height: 1.5em;
    margin: 0 0 4px;
    font-weight: 600;
  }
  .today a {
    color: inherit;
    text-decoration-color: var(--line-strong);
  }
}
</style>
