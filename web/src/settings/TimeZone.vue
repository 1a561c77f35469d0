<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Select from 'primevue/select'
import { useConfirm } from 'primevue/useconfirm'
import { computed } from 'vue'
import { api, take } from '@/api/client'
import { workspaceQuery } from '@/api/queries'
import { useSession } from '@/session'

/** By which clock days begin, for all pages of the workspace. */
const session = useSession()
const client = useQueryClient()
const confirm = useConfirm()
const { data: workspace } = useQuery(workspaceQuery())

/** Names of today of zones that browsers still list by older ones (IANA tz database, backward; from memory). */
const OF_TODAY = [
  'America/Nuuk', 'Asia/Ho_Chi_Minh', 'Asia/Kathmandu', 'Asia/Kolkata', 'Asia/Yangon', 'Atlantic/Faroe', 'Europe/Kyiv',
] // prettier-ignore

const zones = computed(() => {
  const all = new Set([
    ...Intl.supportedValuesOf('timeZone'),
    ...OF_TODAY,
    'UTC',
    workspace.value?.zone ?? 'UTC',
  ])
  return [...all].sort().map((value) => ({ value, label: value.replaceAll('_', ' ') }))
})

const change = useMutation({
  mutationFn: (zone: string) => take(api.PUT('/api/workspace/zone', { body: { zone } })),
  onSuccess: async (saved) => {
    if (session.me) session.enter({ ...session.me, zone: saved.zone ?? session.me.zone })
    await client.invalidateQueries()
  },
})

/** What it changes, and what it cannot, is said before. */
function choose(zone: string) {
  if (zone === workspace.value?.zone) return
  const from = workspace.value?.eventsFrom
  confirm.require({
    header: `Let days begin at midnight in ${zone.replaceAll('_', ' ')}?`,
    message: from
      ? `All days from ${from} on are counted anew by it, which may move visits from one day into the next. Days before that stay as they are: their events are deleted.`
      : 'There is nothing to be counted anew yet.',
    acceptProps: { label: 'Change the time zone' },
    rejectProps: { label: 'Leave it', severity: 'secondary', text: true },
    accept: () => change.mutate(zone),
  })
}
</script>

<template>
  <section aria-labelledby="zone-title">
    <h2 id="zone-title">Time zone</h2>
    <Select
      :model-value="workspace?.zone"
      :options="zones"
      option-value="value"
      option-label="label"
      filter
      filter-placeholder="City or continent"
      aria-labelledby="zone-title"
      :loading="change.isPending.value"
      @update:model-value="choose"
    />
    <p v-if="change.error.value" class="notice" role="alert">{{ change.error.value.message }}</p>
    <p class="soft">
      Days in the readings begin at midnight there, and windows of short links are entered by its clocks.
    </p>
  </section>
</template>
