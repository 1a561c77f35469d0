<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { api, take } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { useAccountForm } from './useAccountForm'
import AccountFrame from './AccountFrame.vue'
import FieldEmail from './FieldEmail.vue'
import FieldPageAddress from './FieldPageAddress.vue'
import LetterSent from './LetterSent.vue'

/** Asking for an account: the way to open it comes in a letter, so that nobody opens one with somebody else’s address. */
const pageAddress = ref('')
const email = ref('')
const sent = ref(false)
const { busy, send, wrongAt, wrongElse } = useAccountForm()

const signUp = () =>
  send(async () => {
    const zone = Intl.DateTimeFormat().resolvedOptions().timeZone
    const body = { email: email.value, pageAddress: pageAddress.value, zone }
    await take(api.POST('/api/sign-up', { body }))
    sent.value = true
  })
</script>

<template>
  <LetterSent v-if="sent" :email="email" :text="$t('account.aLetterOpensTheAccount')" @again="sent = false" />
  <AccountFrame v-else :title="$t('account.openAnAccount')" :text="$t('account.chooseTheAddressYouWill')">
    <form class="account-form" novalidate @submit.prevent="signUp">
      <WrongText class="notice" :text="wrongElse('pageAddress', 'email')" />
      <FieldPageAddress v-model="pageAddress" :wrong="wrongAt('pageAddress')" />
      <FieldEmail v-model="email" :wrong="wrongAt('email')" />
      <Button type="submit" :label="$t('account.sendMeTheLink')" :loading="busy" />
    </form>
    <i18n-t keypath="account.youHaveOne" tag="p" class="small" scope="global">
      <template #link
        ><RouterLink class="other-way" :to="{ name: 'sign-in' }">{{
          $t('account.signIn')
        }}</RouterLink></template
      >
    </i18n-t>
  </AccountFrame>
</template>
