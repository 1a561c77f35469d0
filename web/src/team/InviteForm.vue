<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref } from 'vue'
import { useAccountForm } from '@/account/useAccountForm'
import { api, take, type RoleInReach } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import RoleFields from './RoleFields.vue'

/** Asks somebody by a letter to become a member. */
const client = useQueryClient()
const email = ref('')
const role = ref<RoleInReach>({ role: 'edits', whole: true, pages: [] })
const sentTo = ref('')
const { busy, send, wrongAt, wrongElse } = useAccountForm()
const invite = () =>
  send(async () => {
    await take(api.POST('/api/invitations', { body: { ...role.value, email: email.value } }))
    sentTo.value = email.value
    email.value = ''
    await client.invalidateQueries({ queryKey: ['invitations'] })
  })
</script>

<template>
  <form class="account-form invite" novalidate @submit.prevent="invite">
    <div class="field">
      <label for="invite-email">{{ $t('account.eMailAddress') }}</label>
      <InputText
        id="invite-email"
        v-model="email"
        type="email"
        autocomplete="off"
        :invalid="!!wrongAt('email')"
        aria-describedby="invite-wrong"
      />
      <WrongText id="invite-wrong" :text="wrongAt('email')" />
    </div>
    <RoleFields v-model="role" />
    <WrongText :text="wrongElse('email')" />
    <p v-if="sentTo" role="status">{{ $t('team.letterIsOnItsWay', { email: sentTo }) }}</p>
    <div>
      <Button type="submit" :label="$t('team.invite')" :loading="busy" :disabled="!email" />
    </div>
  </form>
</template>

<style scoped>
.invite {
  max-width: 27rem;
}
</style>
