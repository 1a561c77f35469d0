<script setup lang="ts">
import { browserSupportsWebAuthn } from '@simplewebauthn/browser'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import type { Me } from '@/api/client'
import { hasDrafts } from '@/saving/drafts'
import { useSession } from '@/session'
import { useArrival } from './useArrival'
import { useSignIn } from './useSignIn'
import AccountFrame from './AccountFrame.vue'
import FieldCode from './FieldCode.vue'
import FieldPassword from './FieldPassword.vue'

const arrive = useArrival()
const route = useRoute()
const session = useSession()
const email = ref('')
const { password, code, wantsCode, busy, wrong, withPassword, withPasskey, forget } = useSignIn()
/** Whether something waits in this browser for whoever typed it. */
const waiting = ref(false)
onMounted(async () => {
  waiting.value = await hasDrafts().catch(() => false)
})

async function enter(me: Me | undefined) {
  if (!me) return
  session.enter(me)
  const then = route.query.then
  await arrive(typeof then === 'string' && /^\/[^/\\]/.test(then) ? then : '/')
}
</script>

<template>
  <AccountFrame :title="$t('account.signIn')" :text="$t('account.backToYourPage')">
    <form class="account-form" @submit.prevent="withPassword(email).then(enter)">
      <p v-if="wrong" role="alert" class="notice">{{ wrong }}</p>
      <p v-else-if="waiting" role="status" class="notice plain">
        {{ $t('account.whatYouTyped') }}
      </p>
      <template v-if="!wantsCode">
        <div class="field">
          <label for="email">{{ $t('account.eMailAddress') }}</label>
          <InputText id="email" v-model="email" type="email" autocomplete="username webauthn" required />
        </div>
        <FieldPassword v-model="password" required />
      </template>
      <FieldCode v-else v-model="code" :hint="$t('account.theCodeYourApp')" />
      <Button type="submit" :label="$t('account.signIn')" :loading="busy" />
      <Button
        v-if="wantsCode"
        :label="$t('account.somebodyElse')"
        severity="secondary"
        text
        @click="forget"
      />
      <Button
        v-else-if="browserSupportsWebAuthn()"
        :label="$t('account.signInWithAPasskey')"
        severity="secondary"
        :disabled="busy"
        @click="withPasskey().then(enter)"
      />
    </form>
    <p class="small">
      <RouterLink class="other-way" :to="{ name: 'forgotten-password' }">{{
        $t('account.forgottenYourPassword')
      }}</RouterLink>
    </p>
    <i18n-t keypath="account.newHere" tag="p" class="small" scope="global">
      <template #link
        ><RouterLink class="other-way" :to="{ name: 'sign-up' }">{{
          $t('account.openAnAccount')
        }}</RouterLink></template
      >
    </i18n-t>
  </AccountFrame>
</template>
