<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { api, take } from '@/api/client'
import SettingsFrame from '@/settings/SettingsFrame.vue'
import ChangeEmail from './ChangeEmail.vue'
import ChangePassword from './ChangePassword.vue'
import OwnPasskeys from './OwnPasskeys.vue'
import SecondFactor from './SecondFactor.vue'
import SessionList from './SessionList.vue'

/** How somebody gets into their account, and who else might. */
const { data: account, refetch } = useQuery({
  queryKey: ['account'],
  queryFn: () => take(api.GET('/api/account')),
})
</script>

<template>
  <SettingsFrame :title="$t('settings.account')">
    <template #lead>{{ $t('account.theAddressYouHandOut') }}</template>
    <template v-if="account">
      <SessionList />
      <SecondFactor :account="account" @changed="refetch" />
      <OwnPasskeys :passkeys="account.passkeys" @changed="refetch" />
      <ChangePassword />
      <ChangeEmail :email="account.email" />
    </template>
  </SettingsFrame>
</template>
