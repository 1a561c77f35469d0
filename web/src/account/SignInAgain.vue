<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { useQueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'
import { api, take } from '@/api/client'
import { saveAll } from '@/saving/editing'
import { useSession } from '@/session'
import FieldPassword from './FieldPassword.vue'

/** The session ended while somebody was at work. They sign in where they are, and go on. */
const session = useSession()
const queries = useQueryClient()
const password = ref('')
const busy = ref(false)
const wrong = ref('')

async function goOn() {
  busy.value = true
  wrong.value = ''
  try {
    const email = session.me?.email ?? ''
    session.enter(await take(api.POST('/api/sign-in', { body: { email, password: password.value } })))
    password.value = ''
    await saveAll()
    await queries.invalidateQueries()
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    busy.value = false
  }
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
    <form id="sign-in-again" class="again" @submit.prevent="goOn">
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
      <FieldPassword v-model="password" required autofocus />
    </form>
    <template #footer>
      <Button :label="$t('account.somebodyElse')" severity="secondary" text @click="session.leave()" />
      <Button type="submit" form="sign-in-again" :label="$t('account.signIn')" :loading="busy" />
    </template>
  </Dialog>
</template>

<style scoped>
.again {
  display: grid;
  gap: 14px;
}
</style>
