<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { useConfirm } from 'primevue/useconfirm'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, take, type WebhookWish } from '@/api/client'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import SettingsFrame from '@/settings/SettingsFrame.vue'
import { timeHere } from '@/shell/moments'
import MessageLog from './MessageLog.vue'
import WebhookForm from './WebhookForm.vue'
import WebhookSecret from './WebhookSecret.vue'
import { wishWords } from './programWords'

/** One address that is told, what it is told, and what it was. */
const route = useRoute()
const router = useRouter()
const client = useQueryClient()
const confirm = useConfirm()
const id = computed(() => route.params.webhook as string)
const path = computed(() => ({ params: { path: { webhook: id.value } } }))
const { data: webhooks } = useQuery({ queryKey: ['webhooks'], queryFn: () => take(api.GET('/api/webhooks')) })
const webhook = computed(() => webhooks.value?.find((one) => one.id === id.value))
const refresh = () => client.invalidateQueries({ queryKey: ['webhooks'] })

const changing = ref(false)
const change = useMutation({
  mutationFn: (body: WebhookWish & { on: boolean }) =>
    take(api.PUT('/api/webhooks/{webhook}', { ...path.value, body })),
  onSuccess: () => {
    changing.value = false
    return refresh()
  },
})
function turn(on: boolean) {
  const { address, kinds, clicks } = webhook.value!
  change.mutate({ address, kinds, clicks, on })
}
const remove = useMutation({
  mutationFn: () => take(api.DELETE('/api/webhooks/{webhook}', path.value)),
  onSuccess: async () => {
    await refresh()
    await router.push({ name: 'programs' })
  },
})
const askToRemove = () =>
  confirm.require({
    header: t('programs.deleteAsked'),
    message: t('programs.logGoesToo'),
    acceptProps: { label: t('programs.deleteIt'), severity: 'danger' },
    rejectProps: { label: t('common.cancel'), severity: 'secondary', text: true },
    accept: () => remove.mutate(),
  })
</script>

<template>
  <SettingsFrame :title="$t('programs.webhook')">
    <template #lead>
      <RouterLink class="more" :to="{ name: 'programs' }">{{ $t('programs.allPrograms') }}</RouterLink>
    </template>
    <template v-if="webhook">
      <section aria-labelledby="told-title">
        <h2 id="told-title" class="address">{{ webhook.address }}</h2>
        <template v-if="!changing">
          <p>{{ wishWords(webhook) }}</p>
          <FieldSwitch
            :model-value="!webhook.offAt"
            :label="$t('programs.isTold')"
            @update:model-value="turn($event)"
          />
          <p v-if="webhook.offAt" class="notice" role="status">
            {{ $t('programs.offSince', { when: timeHere(webhook.offAt), why: webhook.offBecause ?? '' }) }}
          </p>
          <Button
            severity="secondary"
            size="small"
            :label="$t('programs.changeIt')"
            @click="changing = true"
          />
        </template>
        <WebhookForm
          v-else
          :label="$t('programs.keepIt')"
          :wish="webhook"
          :busy="change.isPending.value"
          :error="change.error.value"
          @submit="change.mutate({ ...$event, on: !webhook!.offAt })"
          @cancel="changing = false"
        />
        <WrongText v-if="!changing" :text="change.error.value?.message" />
      </section>
      <MessageLog :webhook="webhook.id" />
      <WebhookSecret :webhook="webhook" />
      <section>
        <Button severity="danger" text :label="$t('programs.deleteWebhook')" @click="askToRemove" />
        <WrongText :text="remove.error.value?.message" />
      </section>
    </template>
    <p v-else-if="webhooks">{{ $t('programs.noSuchWebhook') }}</p>
  </SettingsFrame>
</template>

<style scoped>
.address {
  overflow-wrap: anywhere;
}
</style>
