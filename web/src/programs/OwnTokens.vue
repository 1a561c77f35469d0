<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { ref } from 'vue'
import { api, take, type ApiToken } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { dayHere, timeHere } from '@/shell/moments'
import NewToken from './NewToken.vue'
import { mayWords } from './programWords'

/** Tokens of one’s programs in this workspace. */
const client = useQueryClient()
const KEY = ['api-tokens']
const { data: tokens } = useQuery({ queryKey: KEY, queryFn: () => take(api.GET('/api/api-tokens')) })
const end = useMutation({
  mutationFn: (apiToken: string) =>
    take(api.DELETE('/api/api-tokens/{apiToken}', { params: { path: { apiToken } } })),
  onSettled: () => client.invalidateQueries({ queryKey: KEY }),
})
const making = ref(false)
function untilWords({ role, until }: ApiToken) {
  const words = { may: mayWords(role), day: dayHere(until) }
  return new Date(until) < new Date() ? t('programs.wasUntil', words) : t('programs.until', words)
}
</script>

<template>
  <section aria-labelledby="tokens-title">
    <h2 id="tokens-title">{{ $t('programs.tokens') }}</h2>
    <p class="soft">{{ $t('programs.tokenActsForYou') }}</p>
    <ul v-if="tokens?.length" class="account-list">
      <li v-for="token in tokens" :key="token.id">
        <div>
          <strong>{{ token.name }}</strong>
          <small>{{ untilWords(token) }}</small>
          <small>{{
            token.usedAt
              ? $t('programs.usedLast', { when: timeHere(token.usedAt) })
              : $t('programs.neverUsed')
          }}</small>
        </div>
        <Button
          size="small"
          severity="secondary"
          :label="$t('programs.end')"
          :aria-label="$t('programs.endWhich', { name: token.name })"
          @click="end.mutate(token.id)"
        />
      </li>
    </ul>
    <WrongText :text="end.error.value?.message" />
    <NewToken v-if="making" @done="making = false" />
    <Button v-else severity="secondary" :label="$t('programs.makeToken')" @click="making = true" />
  </section>
</template>
