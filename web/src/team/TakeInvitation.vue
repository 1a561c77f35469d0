<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import AccountFrame from '@/account/AccountFrame.vue'
import FieldPassword from '@/account/FieldPassword.vue'
import OldLink from '@/account/OldLink.vue'
import { useAccountForm } from '@/account/useAccountForm'
import { api, take } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { enterAnew, useSession } from '@/session'

/** Where the letter of an invitation leads. */
const route = useRoute()
const token = route.hash.slice(1)
const session = useSession()
const password = ref('')
const { busy, send, wrongAt, wrongElse } = useAccountForm()
const looked = useQuery({
  queryKey: ['invitation', token],
  queryFn: () => take(api.POST('/api/taken-invitations/look', { body: { token } })),
  retry: false,
})
const invited = looked.data
/** Whoever has an account signs in before. */
const signInFirst = computed(() => invited.value?.hasAccount && !invited.value.signedInAs)
const newcomer = computed(() => invited.value && !invited.value.hasAccount && !invited.value.signedInAs)
const WORDS = { runs: t('team.toRun'), edits: t('team.toEdit'), reads: t('team.toRead') }

const join = () =>
  send(async () => {
    const body = newcomer.value ? { token, password: password.value } : { token }
    const { me } = await take(api.POST('/api/taken-invitations', { body }))
    if (me) session.enter(me)
    enterAnew()
  })
</script>

<template>
  <OldLink
    v-if="looked.error.value"
    :says="looked.error.value.message"
    :way="{ name: 'sign-in' }"
    :label="$t('account.signIn')"
  />
  <AccountFrame
    v-else-if="invited"
    :title="$t('team.youAreInvitedTo', { name: invited.workspace })"
    :text="$t('team.asksYou', { who: invited.invitedBy, what: WORDS[invited.role] })"
  >
    <p v-if="signInFirst">
      {{ $t('team.hasAnAccount', { email: invited.email }) }}
      <RouterLink class="other-way" :to="{ name: 'sign-in', query: { then: route.fullPath } }">{{
        $t('account.signIn')
      }}</RouterLink>
    </p>
    <form v-else class="account-form" novalidate @submit.prevent="join">
      <WrongText class="notice" :text="wrongElse('password')" />
      <p v-if="invited.signedInAs">{{ $t('team.youAreSignedInAs', { email: invited.signedInAs }) }}</p>
      <template v-else>
        <p>{{ $t('account.signInWithLater', { email: invited.email }) }}</p>
        <input type="hidden" autocomplete="username" :value="invited.email" />
        <FieldPassword
          v-model="password"
          autocomplete="new-password"
          :hint="$t('account.charactersOrMoreAFew')"
          :wrong="wrongAt('password')"
          autofocus
        />
      </template>
      <Button type="submit" :label="$t('team.becomeAMember')" :loading="busy" />
    </form>
  </AccountFrame>
</template>
