<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { ref } from 'vue'
import { api, take, type WebhookWish } from '@/api/client'
import WebhookForm from './WebhookForm.vue'
import { wishWords } from './programWords'

/** Addresses that are told of what happens. */
const client = useQueryClient()
const { data: webhooks } = useQuery({ queryKey: ['webhooks'], queryFn: () => take(api.GET('/api/webhooks')) })
const adding = ref(false)
const add = useMutation({
  mutationFn: (body: WebhookWish) => take(api.POST('/api/webhooks', { body })),
  onSuccess: () => {
    adding.value = false
    return client.invalidateQueries({ queryKey: ['webhooks'] })
  },
})
</script>

<template>
  <section aria-labelledby="webhooks-title">
    <h2 id="webhooks-title">{{ $t('programs.webhooks') }}</h2>
    <p class="soft">{{ $t('programs.webhooksLead') }}</p>
    <ul v-if="webhooks?.length" class="account-list">
      <li v-for="webhook in webhooks" :key="webhook.id">
        <div>
          <RouterLink class="more" :to="{ name: 'webhook', params: { webhook: webhook.id } }">{{
            webhook.address
          }}</RouterLink>
          <small>{{ wishWords(webhook) }}</small>
          <small v-if="webhook.offAt">{{ $t('programs.isOff', { why: webhook.offBecause ?? '' }) }}</small>
        </div>
      </li>
    </ul>
    <WebhookForm
      v-if="adding"
      :label="$t('programs.tellIt')"
      :busy="add.isPending.value"
      :error="add.error.value"
      @submit="add.mutate($event)"
      @cancel="adding = false"
    />
    <Button v-else severity="secondary" :label="$t('programs.addWebhook')" @click="adding = true" />
  </section>
</template>
