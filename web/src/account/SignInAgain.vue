<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { useQueryClient } from '@tanstack/vue-query'
import type { Me } from '@/api/client'
import { saveAll } from '@/saving/editing'
import { useSession } from '@/session'
import { useSignIn } from './useSignIn'
import FieldCode from './FieldCode.vue'
import FieldPassword from './FieldPassword.vue'

/** The session ended while somebody was at work. They sign in where they are, and go on. */
const session = useSession()
const queries = useQueryClient()
const { password, code, wantsCode, busy, wrong, withPassword, withPasskey } = useSignIn()

async function goOn(me: Me | undefined) {
  if (!me) return
  // A passkey may be somebody else's; nothing that one typed is saved by another.
  if (me.email !== session.me?.email) session.leave()
  session.enter(me)
  await saveAll()
  await queries.invalidateQueries()
}
</script>

<template>
  <Dialog
    :visible="session.ended"
    modal
    :closable="false"
    :close-on-escape="false"
    :header="$t('account.yourSessionHasEnded')"
    :style="{ width: '26rem' }"
    :breakpoints="{ '720px': '94vw' }"
  >
    <form
      id="sign-in-again"
      class="account-form"
      @submit.prevent="withPassword(session.me?.email ?? '').then(goOn)"
    >
      <p>{{ $t('account.signInAgainToGo') }}</p>
      <p v-if="wrong" role="alert" class="notice">{{ wrong }}</p>
      <div class="field">
        <label for="again-email">{{ $t('account.eMailAddress') }}</label>
        <InputText
          id="again-email"
          :model-value="session.me?.email"
          type="email"
          autocomplete="username"
          readonly
        />
      </div>
      <FieldCode v-if="wantsCode" v-model="code" :hint="$t('account.theCodeYourApp')" />
      <FieldPassword v-else v-model="password" required autofocus />
    </form>
    <template #footer>
      <Button :label="$t('account.somebodyElse')" severity="secondary" text @click="session.leave()" />
      <Button
        :label="$t('account.withAPasskey')"
        severity="secondary"
        text
        :disabled="busy"
        @click="withPasskey().then(goOn)"
      />
      <Button type="submit" form="sign-in-again" :label="$t('account.signIn')" :loading="busy" />
    </template>
  </Dialog>
</template>
