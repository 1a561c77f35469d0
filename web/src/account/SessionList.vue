<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { api, take } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { timeHere } from '@/shell/moments'

/** Where somebody is signed in, and the way to end it. */
const client = useQueryClient()
const KEY = ['sessions']
const { data: sessions } = useQuery({
  queryKey: KEY,
  queryFn: () => take(api.GET('/api/account/sessions')),
  refetchOnWindowFocus: true,
})
const end = useMutation({
  mutationFn: (session: string) =>
    take(api.DELETE('/api/account/sessions/{session}', { params: { path: { session } } })),
  onSettled: () => client.invalidateQueries({ queryKey: KEY }),
})
const endOthers = useMutation({
  mutationFn: () => take(api.DELETE('/api/account/sessions')),
  onSettled: () => client.invalidateQueries({ queryKey: KEY }),
})
</script>

<template>
  <section aria-labelledby="sessions-title">
    <h2 id="sessions-title">{{ $t('account.whereYouAreSignedIn') }}</h2>
    <ul class="account-list">
      <li v-for="session in sessions" :key="session.id">
        <div>
          <strong>{{ session.device }}</strong>
          <span v-if="session.current" class="here">{{ $t('account.here') }}</span>
          <small>{{
            $t('account.lastUsed', { used: timeHere(session.used), began: timeHere(session.began) })
          }}</small>
        </div>
        <Button
          v-if="!session.current"
          size="small"
          severity="secondary"
          :label="$t('account.signOutThere')"
          :aria-label="$t('account.signOutOn', { device: session.device })"
          @click="end.mutate(session.id)"
        />
      </li>
    </ul>
    <Button
      v-if="(sessions?.length ?? 0) > 1"
      severity="secondary"
      :label="$t('account.signOutEverywhereElse')"
      :loading="endOthers.isPending.value"
      @click="endOthers.mutate()"
    />
    <WrongText :text="(end.error.value ?? endOthers.error.value)?.message" />
  </section>
</template>
