<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, take } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { useSession } from '@/session'
import { useAccountForm } from './useAccountForm'
import AccountFrame from './AccountFrame.vue'

/** Where the letter to a new e-mail address leads: by a press, because mail programs open links by themselves. */
const token = useRoute().hash.slice(1)
const session = useSession()
const done = ref(false)
const { busy, send, wrongElse } = useAccountForm()
const confirm = () =>
  send(async () => {
    await take(api.POST('/api/confirm-email', { body: { token } }))
    done.value = true
    await session.findAnew()
  })
</script>

<template>
  <AccountFrame v-if="done" :title="$t('account.addressConfirmed')" :text="$t('account.fromNowOn')">
    <p>
      <RouterLink class="other-way" :to="{ name: 'home' }">{{ $t('account.toTheStudio') }}</RouterLink>
    </p>
  </AccountFrame>
  <AccountFrame v-else :title="$t('account.isThisYourAddress')" :text="$t('account.confirmToSignIn')">
    <WrongText class="notice" :text="wrongElse()" />
    <Button :label="$t('account.confirmTheAddress')" :loading="busy" @click="confirm" />
  </AccountFrame>
</template>
