<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { api, take } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { useSession } from '@/session'
import { useAccountForm } from './useAccountForm'
import { useArrival } from './useArrival'
import AccountFrame from './AccountFrame.vue'
import FieldPageAddress from './FieldPageAddress.vue'
import FieldPassword from './FieldPassword.vue'
import OldLink from './OldLink.vue'

/** Where the letter about a new account leads: a password, and the account is open. */
const token = useRoute().hash.slice(1)
const arrive = useArrival()
const session = useSession()
const pageAddress = ref('')
const password = ref('')
const { busy, send, wrongAt, wrongElse } = useAccountForm()
const pending = useQuery({
  queryKey: ['pending-account', token],
  queryFn: () => take(api.POST('/api/sign-up/look', { body: { token } })),
  retry: false,
})
watch(pending.data, (found) => found && (pageAddress.value ||= found.pageAddress), { immediate: true })

const open = () =>
  send(async () => {
    const body = { token, password: password.value, pageAddress: pageAddress.value }
    const { me } = await take(api.POST('/api/accounts', { body }))
    if (!me) return
    session.enter(me)
    await arrive('/')
  })
</script>

<template>
  <OldLink
    v-if="pending.error.value"
    :says="pending.error.value.message"
    :way="{ name: 'sign-up' }"
    :label="$t('account.openAnAccount')"
  />
  <AccountFrame
    v-else
    :title="$t('account.oneStepIsLeft')"
    :text="$t('account.signInWithLater', { email: pending.data.value?.email ?? '' })"
  >
    <form class="account-form" novalidate @submit.prevent="open">
      <WrongText class="notice" :text="wrongElse('pageAddress', 'password')" />
      <FieldPageAddress
        v-if="pending.data.value && (!pending.data.value.free || wrongAt('pageAddress'))"
        v-model="pageAddress"
        :wrong="
          wrongAt('pageAddress') ?? $t('account.somebodyTookIt', { address: pending.data.value.pageAddress })
        "
      />
      <p v-else>
        <span class="soft">{{ $t('account.pageAddress') }}:</span> <strong>{{ pageAddress }}</strong>
      </p>
      <!-- For password managers, which keep a password with a name. -->
      <input type="hidden" autocomplete="username" :value="pending.data.value?.email" />
      <FieldPassword
        v-model="password"
        autocomplete="new-password"
        :hint="$t('account.charactersOrMoreAFew')"
        :wrong="wrongAt('password')"
        autofocus
      />
      <Button type="submit" :label="$t('account.openAccount')" :loading="busy" />
    </form>
  </AccountFrame>
</template>
