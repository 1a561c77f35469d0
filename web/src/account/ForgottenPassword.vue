<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { api, take } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { useAccountForm } from './useAccountForm'
import AccountFrame from './AccountFrame.vue'
import FieldEmail from './FieldEmail.vue'
import LetterSent from './LetterSent.vue'

/** The way to a new password comes in a letter. */
const email = ref('')
const sent = ref(false)
const { busy, send, wrongAt, wrongElse } = useAccountForm()
const ask = () =>
  send(async () => {
    await take(api.POST('/api/forgotten-password', { body: { email: email.value } }))
    sent.value = true
  })
</script>

<template>
  <LetterSent v-if="sent" :email="email" :text="$t('account.aLetterHasTheWay')" @again="sent = false" />
  <AccountFrame v-else :title="$t('account.chooseANewPassword')" :text="$t('account.weSendYouTheWay')">
    <form class="account-form" novalidate @submit.prevent="ask">
      <WrongText class="notice" :text="wrongElse('email')" />
      <FieldEmail v-model="email" :wrong="wrongAt('email')" />
      <Button type="submit" :label="$t('account.sendMeTheLink')" :loading="busy" />
    </form>
    <p class="small">
      <RouterLink class="other-way" :to="{ name: 'sign-in' }">{{ $t('account.backToSigningIn') }}</RouterLink>
    </p>
  </AccountFrame>
</template>
