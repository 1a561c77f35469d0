<script setup lang="ts">
import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed } from 'vue'
import { api, take, takePart } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { timeHere } from '@/shell/moments'
import { cameOf, kindWords } from './programWords'

/** What a webhook was sent, the latest first, and what came of it. */
const { webhook } = defineProps<{ webhook: string }>()
const client = useQueryClient()
const key = computed(() => ['deliveries', webhook])
const { data, error, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery({
  queryKey: key,
  queryFn: ({ pageParam }) =>
    takePart(
      api.GET('/api/webhooks/{webhook}/messages', {
        params: { path: { webhook }, query: { after: pageParam, limit: 20 } },
      }),
    ),
  initialPageParam: undefined as string | undefined,
  getNextPageParam: (last) => last.next,
  // Of what is on its way it is soon known what came of it.
  refetchInterval: (query) =>
    query.state.data?.pages[0]?.items.some(({ state, attempts }) => state === 'waiting' && !attempts)
      ? 1500
      : false,
})
const messages = computed(() => (data.value?.pages ?? []).flatMap(({ items }) => items))
const refresh = () => client.invalidateQueries({ queryKey: key.value })
const tryIt = useMutation({
  mutationFn: () => take(api.POST('/api/webhooks/{webhook}/trial', { params: { path: { webhook } } })),
  onSuccess: refresh,
})
const again = useMutation({
  mutationFn: (message: string) =>
    take(
      api.POST('/api/webhooks/{webhook}/messages/{message}/again', {
        params: { path: { webhook, message } },
      }),
    ),
  onSuccess: refresh,
})
</script>

<template>
  <section aria-labelledby="messages-title">
    <h2 id="messages-title">{{ $t('programs.messages') }}</h2>
    <p v-if="data && !messages.length" class="soft">{{ $t('programs.noMessages') }}</p>
    <ul v-if="messages.length" class="account-list">
      <li v-for="message in messages" :key="message.id">
        <div>
          <strong>{{ kindWords(message.kind) }}</strong>
          <small>{{ timeHere(message.createdAt) }}. {{ cameOf(message) }}</small>
          <details>
            <summary>{{ $t('programs.whatItSaid') }}</summary>
            <small>{{ message.messageId }}</small>
            <pre>{{ message.body }}</pre>
          </details>
        </div>
        <Button
          size="small"
          severity="secondary"
          :label="$t('programs.sendAgain')"
          :aria-label="
            $t('programs.sendWhichAgain', { what: kindWords(message.kind), id: message.messageId })
          "
          @click="again.mutate(message.id)"
        />
      </li>
    </ul>
    <div class="line">
      <Button
        severity="secondary"
        size="small"
        :label="$t('programs.sendOneNow')"
        :loading="tryIt.isPending.value"
        @click="tryIt.mutate()"
      />
      <Button
        v-if="hasNextPage"
        severity="secondary"
        size="small"
        text
        :label="$t('journal.earlier')"
        :loading="isFetchingNextPage"
        @click="fetchNextPage()"
      />
    </div>
    <WrongText :text="(error ?? tryIt.error.value ?? again.error.value)?.message" />
  </section>
</template>

<style scoped>
pre {
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  font-size: 0.82rem;
  margin: 4px 0 0;
}
summary {
  cursor: pointer;
  font-size: 0.85rem;
}
</style>
