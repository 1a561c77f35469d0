<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { api, take } from '@/api/client'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import { useSession } from '@/session'

/** Whether the figures of the week come by e-mail, and one to look at now. */
const session = useSession()
const client = useQueryClient()
const KEY = ['weekly-letter']
const { data: letter } = useQuery({ queryKey: KEY, queryFn: () => take(api.GET('/api/weekly-letter')) })

const change = useMutation({
  mutationFn: (on: boolean) => take(api.PUT('/api/weekly-letter', { body: { on } })),
  onSuccess: (saved) => client.setQueryData(KEY, saved),
})
const send = useMutation({ mutationFn: () => take(api.POST('/api/weekly-letter/send')) })
</script>

<template>
  <section aria-labelledby="weekly-title">
    <h2 id="weekly-title">{{ $t('settings.weeklyLetter') }}</h2>
    <FieldSwitch
      :model-value="letter?.on ?? false"
      :label="$t('settings.sendMeTheWeek')"
      @update:model-value="change.mutate($event)"
    />
    <p class="soft">{{ $t('settings.onMondays', { email: session.me?.email ?? '' }) }}</p>
    <Button
      :label="$t('settings.sendLastWeekNow')"
      severity="secondary"
      size="small"
      :loading="send.isPending.value"
      @click="send.mutate()"
    />
    <p v-if="send.isSuccess.value" role="status">{{ $t('settings.isOnItsWay') }}</p>
    <p v-if="change.error.value ?? send.error.value" class="notice" role="alert">
      {{ (change.error.value ?? send.error.value)?.message }}
    </p>
  </section>
</template>
