<script setup lang="ts">
import { api, take } from '@/api/client'
import { usePageStore } from '@/page/pageStore'
import StandingNotice from './StandingNotice.vue'
import { dayWords } from './standing'

/** Says that the page was taken down, and until when it can be kept. */
const page = usePageStore()

async function keep() {
  if (!page.state) return
  await take(api.POST('/api/pages/{page}/keep', { params: { path: { page: page.state.id } } }))
  await page.refresh()
}
</script>

<template>
  <StandingNotice v-if="page.state?.deleteAt" :label="$t('pages.keepAfterAll')" :end="keep">
    <strong>{{ $t('pages.thisPageWasTakenDown', { date: dayWords(page.state.deleteAt) }) }}</strong>
  </StandingNotice>
</template>
