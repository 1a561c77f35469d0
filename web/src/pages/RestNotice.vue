<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { useToast } from 'primevue/usetoast'
import { ref } from 'vue'
import { momentWords } from '@/arrange/stateWords'
import { t } from '@/i18n'
import { usePageStore } from '@/page/pageStore'
import { useZone } from '@/shell/useZone'

/** Says that the page rests, since when and what visitors read; woken at one press. */
const page = usePageStore()
const client = useQueryClient()
const toast = useToast()
const zone = useZone()
const busy = ref(false)

async function wake() {
  busy.value = true
  try {
    await page.wake()
    await client.invalidateQueries({ queryKey: ['pages'] })
  } catch (error) {
    toast.add({ severity: 'error', summary: (error as Error).message, life: 10_000 })
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div v-if="page.state?.resting" class="standing-notice">
    <p>
      <strong>{{ $t('pages.restsSince', { since: momentWords(page.state.resting.since, zone) }) }}</strong>
      {{ $t('pages.visitorsRead', { notice: page.state.resting.notice || t('pages.restNotice') }) }}
    </p>
    <Button size="small" severity="secondary" :label="$t('pages.wake')" :loading="busy" @click="wake" />
  </div>
</template>
