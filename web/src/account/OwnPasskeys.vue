<script setup lang="ts">
import { browserSupportsWebAuthn, startRegistration } from '@simplewebauthn/browser'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref } from 'vue'
import { api, take, type AccountView, type PasskeyCreation } from '@/api/client'
import { t } from '@/i18n'
import { dayHere } from '@/shell/moments'
import ProvenForm from './ProvenForm.vue'

/** What devices keep to sign in with, without a password. */
defineProps<{ passkeys: AccountView['passkeys'] }>()
const emit = defineEmits<{ changed: [] }>()
const open = ref(false)
const name = ref('')

async function make(password: string) {
  const { options, state } = await take(api.POST('/api/account/passkeys/question', { body: { password } }))
  let made
  try {
    made = await startRegistration({ optionsJSON: options as PasskeyCreation })
  } catch {
    throw new Error(t('account.noPasskeyWasMade'))
  }
  await take(api.POST('/api/account/passkeys', { body: { state, answer: { ...made }, name: name.value } }))
  name.value = ''
  open.value = false
  emit('changed')
}
/** The ID of the passkey that is to be removed once the password is typed. */
const removing = ref('')
async function remove(password: string) {
  const path = { passkey: removing.value }
  await take(api.POST('/api/account/passkeys/{passkey}/removal', { params: { path }, body: { password } }))
  removing.value = ''
  emit('changed')
}
</script>

<template>
  <section aria-labelledby="passkeys-title">
    <h2 id="passkeys-title">{{ $t('account.passkeys') }}</h2>
    <p class="soft">{{ $t('account.yourPhoneOrComputer') }}</p>
    <ul v-if="passkeys.length" class="account-list">
      <li v-for="passkey in passkeys" :key="passkey.id">
        <div>
          <strong>{{ passkey.name }}</strong>
          <small>{{
            passkey.usedAt
              ? $t('account.madeAndUsed', {
                  made: dayHere(passkey.createdAt),
                  used: dayHere(passkey.usedAt),
                })
              : $t('account.madeNotUsed', { made: dayHere(passkey.createdAt) })
          }}</small>
        </div>
        <ProvenForm
          v-if="removing === passkey.id"
          :label="$t('account.removeThePasskey', { name: passkey.name })"
          :act="remove"
          @cancel="removing = ''"
        >
          <p>{{ $t('account.noSigningInWithIt') }}</p>
        </ProvenForm>
        <Button
          v-else
          size="small"
          severity="danger"
          text
          :label="$t('account.removeIt')"
          :aria-label="$t('account.removeThePasskey', { name: passkey.name })"
          @click="removing = passkey.id"
        />
      </li>
    </ul>
    <ProvenForm v-if="open" :label="$t('account.makeThePasskey')" :act="make" @cancel="open = false">
      <div class="field">
        <label for="passkey-name">{{ $t('account.whatToCallIt') }}</label>
        <InputText id="passkey-name" v-model="name" maxlength="60" autocomplete="off" />
        <p class="hint">{{ $t('account.otherwiseByItsBrowser') }}</p>
      </div>
    </ProvenForm>
    <Button
      v-else-if="browserSupportsWebAuthn()"
      severity="secondary"
      :label="$t('account.addAPasskey')"
      @click="open = true"
    />
    <p v-else class="soft">{{ $t('account.thisBrowserHasNone') }}</p>
  </section>
</template>
