<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { api, take } from '@/api/client'
import FieldEmail from './FieldEmail.vue'
import ProvenForm from './ProvenForm.vue'

/** Another e-mail address, once that one is confirmed. */
defineProps<{ email: string }>()
const open = ref(false)
const sentTo = ref('')
const next = ref('')
async function change(password: string) {
  await take(api.PUT('/api/account/email', { body: { password, email: next.value } }))
  sentTo.value = next.value
  next.value = ''
  open.value = false
}
</script>

<template>
  <section aria-labelledby="email-title">
    <h2 id="email-title">{{ $t('account.eMailAddress') }}</h2>
    <p>{{ email }}</p>
    <p v-if="sentTo" role="status">{{ $t('account.changesOnceConfirmed', { email: sentTo }) }}</p>
    <ProvenForm
      v-if="open"
      v-slot="{ wrongAt }"
      :label="$t('account.changeTheAddress')"
      :act="change"
      :fields="['email']"
      @cancel="open = false"
    >
      <FieldEmail v-model="next" :label="$t('account.newEMailAddress')" :wrong="wrongAt('email')" />
    </ProvenForm>
    <Button v-else severity="secondary" :label="$t('account.changeTheAddress')" @click="open = true" />
  </section>
</template>
