<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { api, ApiError, take } from '@/api/client'
import { pagesQuery } from '@/api/queries'
import FieldText from '@/fields/FieldText.vue'
import WrongText from '@/fields/WrongText.vue'
import { useSession } from '@/session'
import SettingsFrame from '@/settings/SettingsFrame.vue'
import DomainCard from './DomainCard.vue'

/** Domains of the workspace’s own: what has to be set for them, and how far they are. */
const client = useQueryClient()
const session = useSession()
const KEY = ['domains']
const { data, error } = useQuery({
  queryKey: KEY,
  queryFn: () => take(api.GET('/api/domains')),
  // Somebody who sets entries wants to see them found.
  refetchInterval: (query) =>
    query.state.data?.domains.some(({ state }) => state !== 'in_use') ? 4000 : 60_000,
})
const { data: pages } = useQuery(pagesQuery())
const domains = computed(() => data.value?.domains ?? [])
const refresh = () => client.invalidateQueries({ queryKey: KEY })
// Addresses all over the studio are those of the domain in use.
watch(
  () => domains.value.map(({ host, main, state }) => `${host} ${main} ${state}`).join(),
  (now, before) => {
    if (before !== undefined && now !== before) void session.findAnew()
  },
)

const host = ref('')
const add = useMutation({
  mutationFn: () =>
    take(api.POST('/api/domains', { body: { host: host.value, frontPage: pages.value?.[0]?.id } })),
  onSuccess: () => {
    host.value = ''
    return refresh()
  },
})
const wrong = computed(() => add.error.value?.message)
const atHost = computed(() => add.error.value instanceof ApiError && add.error.value.field === 'host')
</script>

<template>
  <SettingsFrame :title="$t('domains.ownDomain')">
    <template #lead>{{ $t('domains.lead') }}</template>
    <WrongText :text="error?.message" />
    <p v-if="data && !data.offered" class="notice">{{ $t('domains.notOffered') }}</p>
    <DomainCard
      v-for="domain in domains"
      :key="domain.id"
      :domain
      :pages="pages ?? []"
      :several="domains.length > 1"
      @changed="refresh"
    />
    <section v-if="data?.offered && domains.length < data.most" aria-labelledby="add-domain">
      <h2 id="add-domain">{{ domains.length ? $t('domains.addAnother') : $t('domains.add') }}</h2>
      <p class="soft">{{ $t('domains.whatYouNeed') }}</p>
      <form class="line" novalidate @submit.prevent="add.mutate()">
        <FieldText
          v-model="host"
          :label="$t('domains.domain')"
          inputmode="url"
          :placeholder="$t('domains.example')"
          :wrong="atHost ? wrong : undefined"
        />
        <Button type="submit" :label="$t('domains.addIt')" :loading="add.isPending.value" :disabled="!host" />
      </form>
      <WrongText v-if="!atHost" :text="wrong" />
    </section>
  </SettingsFrame>
</template>
