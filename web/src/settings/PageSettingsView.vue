<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref, watch } from 'vue'
import { provideRefused } from '@/fields/refused'
import { usePageStore } from '@/page/pageStore'
import { useSession } from '@/session'
import DeletedNotice from '@/pages/DeletedNotice.vue'
import AsEdited from '@/shell/AsEdited.vue'
import PageScrolling from './PageScrolling.vue'
import OutboundTagging from './OutboundTagging.vue'
import PageCodes from './PageCodes.vue'
import PageLabels from './PageLabels.vue'
import PageLanguages from './PageLanguages.vue'
import PageRemoval from './PageRemoval.vue'
import PageRest from './PageRest.vue'
import PageSharing from './PageSharing.vue'
import PageToTake from './PageToTake.vue'
import SettingsFrame from './SettingsFrame.vue'

/** What is set for one page: its address, and the tags of clicks going out. */
const page = usePageStore()
provideRefused(page.refusedAt)
const session = useSession()
const client = useQueryClient()
const address = ref('')
watch(() => page.state?.address, (now) => (address.value = now ?? ''), { immediate: true }) // prettier-ignore
const change = useMutation({
  mutationFn: () => page.changeAddress(address.value),
  onSuccess: () => client.invalidateQueries(),
})
</script>

<template>
  <SettingsFrame :title="$t('settings.aboutThisPage')">
    <template #lead>
      <i18n-t keypath="settings.whatAllPagesShare" scope="global">
        <template #settings
          ><RouterLink class="more" :to="{ name: 'settings' }">{{
            $t('settings.settings')
          }}</RouterLink></template
        >
      </i18n-t>
    </template>
    <section>
      <h2>{{ $t('settings.itsAddress') }}</h2>
      <form class="line" @submit.prevent="change.mutate()">
        <div class="field">
          <label for="address">{{ session.me?.pageOrigin }}/</label>
          <InputText
            id="address"
            v-model="address"
            autocapitalize="none"
            autocomplete="off"
            spellcheck="false"
            :invalid="change.isError.value"
            aria-describedby="address-says"
          />
        </div>
        <Button
          type="submit"
          :label="$t('settings.changeAddress')"
          :loading="change.isPending.value"
          :disabled="address === page.state?.address"
        />
      </form>
      <p
        id="address-says"
        :class="change.error.value ? 'wrong' : 'soft'"
        :role="change.error.value ? 'alert' : undefined"
      >
        {{ change.error.value?.message ?? $t('settings.theOldAddressGoes') }}
      </p>
    </section>
    <section aria-labelledby="live-title">
      <h2 id="live-title">{{ $t('shell.publish') }}</h2>
      <AsEdited />
    </section>
    <PageSharing />
    <PageLanguages />
    <OutboundTagging />
    <PageScrolling />
    <PageCodes />
    <PageLabels />
    <PageToTake />
    <template v-if="!page.state?.deleteAt">
      <PageRest />
      <PageRemoval />
    </template>
    <section v-else><DeletedNotice /></section>
  </SettingsFrame>
</template>

<style scoped>
.wrong {
  color: var(--danger);
}
</style>
