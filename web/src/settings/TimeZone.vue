<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Select from 'primevue/select'
import { useConfirm } from 'primevue/useconfirm'
import { computed } from 'vue'
import { api, take } from '@/api/client'
import { workspaceQuery } from '@/api/queries'
import { t } from '@/i18n'
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
    header: t('settings.letDaysBeginIn', { zone: zone.replaceAll('_', ' ') }),
    message: from ? t('settings.allDays', { from }) : t('settings.thereIsNothing'),
    acceptProps: { label: t('settings.changeTheTimeZone') },
    rejectProps: { label: t('settings.leaveIt'), severity: 'secondary', text: true },
    accept: () => change.mutate(zone),
  })
}
</script>

<template>
  <section aria-labelledby="zone-title">
    <h2 id="zone-title">{{ $t('settings.timeZone') }}</h2>
    <Select
      :model-value="workspace?.zone"
      :options="zones"
      option-value="value"
      option-label="label"
      filter
      :filter-placeholder="$t('settings.cityOrContinent')"
      aria-labelledby="zone-title"
      :loading="change.isPending.value"
      @update:model-value="choose"
    />
    <p v-if="change.error.value" class="notice" role="alert">{{ change.error.value.message }}</p>
    <p class="soft">
      {{ $t('settings.daysInTheReadingsBegin') }}
    </p>
  </section>
</template>
