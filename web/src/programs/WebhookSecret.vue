<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { ref } from 'vue'
import { api, take, type Webhook } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { timeHere } from '@/shell/moments'
import { useCopy } from '@/shell/useCopy'

/** What messages of a webhook are signed with. */
const { webhook } = defineProps<{ webhook: Webhook }>()
const client = useQueryClient()
const copy = useCopy()
const shown = ref(false)
const renew = useMutation({
  mutationFn: () =>
    take(api.POST('/api/webhooks/{webhook}/secret', { params: { path: { webhook: webhook.id } } })),
  onSuccess: () => client.invalidateQueries({ queryKey: ['webhooks'] }),
})
</script>

<template>
  <section aria-labelledby="secret-title">
    <h2 id="secret-title">{{ $t('programs.secret') }}</h2>
    <p class="soft">{{ $t('programs.signedWith') }}</p>
    <code v-if="shown">{{ webhook.secret }}</code>
    <div class="line">
      <Button
        severity="secondary"
        size="small"
        :label="shown ? $t('programs.hideSecret') : $t('programs.showSecret')"
        @click="shown = !shown"
      />
      <Button
        severity="secondary"
        size="small"
        :label="$t('programs.copySecret')"
        @click="copy(webhook.secret, $t('programs.theSecret'))"
      />
      <Button
        severity="secondary"
        size="small"
        :label="$t('programs.anotherSecret')"
        :loading="renew.isPending.value"
        @click="renew.mutate()"
      />
    </div>
    <p v-if="webhook.oldUntil" role="status">
      {{ $t('programs.oldSignsToo', { when: timeHere(webhook.oldUntil) }) }}
    </p>
    <WrongText :text="renew.error.value?.message" />
  </section>
</template>

<style scoped>
code {
  overflow-wrap: anywhere;
}
</style>
