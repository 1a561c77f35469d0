<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { api, take } from '@/api/client'
import FieldPassword from './FieldPassword.vue'
import ProvenForm from './ProvenForm.vue'

/** Another password; every other session ends. */
const open = ref(false)
const done = ref(false)
const next = ref('')
async function change(password: string) {
  await take(api.PUT('/api/account/password', { body: { password, newPassword: next.value } }))
  next.value = ''
  open.value = false
  done.value = true
}
</script>

<template>
  <section aria-labelledby="password-title">
    <h2 id="password-title">{{ $t('account.password') }}</h2>
    <p v-if="done" role="status">{{ $t('account.passwordIsChanged') }}</p>
    <ProvenForm
      v-if="open"
      v-slot="{ wrongAt }"
      :label="$t('account.changeThePassword')"
      :act="change"
      :fields="['newPassword']"
      @cancel="open = false"
    >
      <FieldPassword
        v-model="next"
        :label="$t('account.newPassword')"
        autocomplete="new-password"
        :hint="$t('account.charactersOrMoreAFew')"
        :wrong="wrongAt('newPassword')"
      />
    </ProvenForm>
    <Button v-else severity="secondary" :label="$t('account.changeThePassword')" @click="open = true" />
  </section>
</template>
