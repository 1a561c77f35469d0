<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, take } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { useSession } from '@/session'
import { useAccountForm } from './useAccountForm'
import AccountFrame from './AccountFrame.vue'
import FieldPassword from './FieldPassword.vue'

/** Where the letter about a forgotten password leads. */
const token = useRoute().hash.slice(1)
const session = useSession()
const password = ref('')
const done = ref(false)
const { busy, send, wrongAt, wrongElse } = useAccountForm()
const set = () =>
  send(async () => {
    await take(api.POST('/api/new-password', { body: { token, password: password.value } }))
    done.value = true
    // Every session ended, this browser’s too.
    session.leave()
  })
</script>

<template>
  <AccountFrame
    v-if="done"
    :title="$t('account.yourPasswordIsChanged')"
    :text="$t('account.signedOutEverywhere')"
  >
    <p>
      <RouterLink class="other-way" :to="{ name: 'sign-in' }">{{ $t('account.signIn') }}</RouterLink>
    </p>
  </AccountFrame>
  <AccountFrame v-else :title="$t('account.chooseANewPassword')" :text="$t('account.signsYouOut')">
    <form class="account-form" novalidate @submit.prevent="set">
      <WrongText class="notice" :text="wrongElse('password')" />
      <FieldPassword
        v-model="password"
        :label="$t('account.newPassword')"
        autocomplete="new-password"
        :hint="$t('account.charactersOrMoreAFew')"
        :wrong="wrongAt('password')"
        autofocus
      />
      <Button type="submit" :label="$t('account.setThePassword')" :loading="busy" />
    </form>
    <p class="small">
      <RouterLink class="other-way" :to="{ name: 'forgotten-password' }">{{
        $t('account.haveAnotherLetterSent')
      }}</RouterLink>
    </p>
  </AccountFrame>
</template>
