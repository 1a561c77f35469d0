<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, take } from '@/api/client'
import { hasDrafts } from '@/saving/drafts'
import { useSession } from '@/session'
import { useArrival } from './useArrival'
import AccountFrame from './AccountFrame.vue'
import FieldPassword from './FieldPassword.vue'

const arrive = useArrival()
const route = useRoute()
const session = useSession()
const email = ref('')
const password = ref('')
const busy = ref(false)
const wrong = ref('')
/** Whether something waits in this browser for whoever typed it. */
const waiting = ref(false)
onMounted(async () => {
  waiting.value = await hasDrafts().catch(() => false)
})

async function signIn() {
  busy.value = true
  wrong.value = ''
  try {
    session.enter(
      await take(api.POST('/api/sign-in', { body: { email: email.value, password: password.value } })),
    )
    const then = route.query.then
    await arrive(typeof then === 'string' && /^\/[^/\\]/.test(then) ? then : '/')
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <AccountFrame :title="$t('account.signIn')" :text="$t('account.backToYourPage')">
    <form class="account-form" @submit.prevent="signIn">
      <p v-if="wrong" role="alert" class="notice">{{ wrong }}</p>
      <p v-else-if="waiting" role="status" class="notice plain">
        {{ $t('account.whatYouTyped') }}
      </p>
      <div class="field">
        <label for="email">{{ $t('account.eMailAddress') }}</label>
        <InputText id="email" v-model="email" type="email" autocomplete="username" required />
      </div>
      <FieldPassword v-model="password" required />
      <Button type="submit" :label="$t('account.signIn')" :loading="busy" />
    </form>
    <i18n-t keypath="account.newHere" tag="p" class="small" scope="global">
      <template #link
        ><RouterLink class="other-way" :to="{ name: 'sign-up' }">{{
          $t('account.openAnAccount')
        }}</RouterLink></template
      >
    </i18n-t>
  </AccountFrame>
</template>

<style scoped>
.account-form {
  display: grid;
  gap: 16px;
}
</style>
