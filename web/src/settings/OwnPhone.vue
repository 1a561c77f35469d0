<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed } from 'vue'
import { api, take } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { formatsOf } from '@/i18n'
import { useCopy } from '@/shell/useCopy'

/** Keeps a phone on which nobody is signed in out of the figures. */
const copy = useCopy()
const ask = useMutation({ mutationFn: () => take(api.GET('/api/own-phone')) })
const phone = ask.data
const code = computed(() => `data:image/svg+xml,${encodeURIComponent(phone.value?.code ?? '')}`)
const until = computed(() =>
  phone.value
    ? new Date(phone.value.until).toLocaleTimeString(formatsOf(), { hour: '2-digit', minute: '2-digit' })
    : '',
)
</script>

<template>
  <section aria-labelledby="own-title">
    <h2 id="own-title">{{ $t('settings.dontCountMe') }}</h2>
    <p class="soft">
      {{ $t('settings.whereverYouAreSigned') }}
    </p>
    <div v-if="phone" class="code">
      <img :src="code" :alt="$t('settings.qrCodeThatKeeps')" />
      <div>
        <p>{{ $t('settings.readItWithThePhone', { until }) }}</p>
        <Button
          size="small"
          severity="secondary"
          :label="$t('settings.copyTheAddressInstead')"
          @click="copy(phone.address, $t('settings.theAddressForThatPhone'))"
        />
      </div>
    </div>
    <Button
      v-else
      severity="secondary"
      :label="$t('settings.showTheCode')"
      :loading="ask.isPending.value"
      @click="ask.mutate()"
    />
    <WrongText :text="ask.error.value?.message" />
  </section>
</template>

<style scoped>
.code {
  display: flex;
  flex-wrap: wrap;
  gap: 16px;
  align-items: center;
}
.code img {
  width: 170px;
  border: 1px solid var(--line);
}
.code div {
  display: grid;
  gap: 10px;
  justify-items: start;
  max-width: 22rem;
}
.wrong {
  color: var(--danger);
}
</style>
