<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { useToast } from 'primevue/usetoast'
import { ref } from 'vue'
import { api, take } from '@/api/client'
import { usePageStore } from '@/page/pageStore'
import { dayWords } from './standing'

/** Says that the page was taken down, and until when it can be kept. */
const page = usePageStore()
const client = useQueryClient()
const toast = useToast()
const busy = ref(false)

async function keep() {
  if (!page.state) return
  busy.value = true
  try {
    await take(api.POST('/api/pages/{page}/keep', { params: { path: { page: page.state.id } } }))
    await Promise.all([page.refresh(), client.invalidateQueries({ queryKey: ['pages'] })])
  } catch (error) {
    toast.add({ severity: 'error', summary: (error as Error).message, life: 10_000 })
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div v-if="page.state?.deleteAt" class="standing-notice">
    <p>
      <strong>{{ $t('pages.thisPageWasTakenDown', { date: dayWords(page.state.deleteAt) }) }}</strong>
    </p>
    <Button
      size="small"
      severity="secondary"
      :label="$t('pages.keepAfterAll')"
      :loading="busy"
      @click="keep"
    />
  </div>
</template>
