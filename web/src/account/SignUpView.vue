<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref } from 'vue'
import { ApiError, api, take } from '@/api/client'
import { useSession } from '@/session'
import { useArrival } from './useArrival'
import AccountFrame from './AccountFrame.vue'
import FieldPassword from './FieldPassword.vue'

const arrive = useArrival()
const session = useSession()
const pageAddress = ref('')
const email = ref('')
const password = ref('')
const busy = ref(false)
const wrong = ref<{ field?: string; message: string }>()

async function signUp() {
  busy.value = true
  wrong.value = undefined
  try {
    const zone = Intl.DateTimeFormat().resolvedOptions().timeZone
    const body = { email: email.value, password: password.value, pageAddress: pageAddress.value, zone }
    // Signing up says nothing of whether the address had an account; signing in decides.
    await take(api.POST('/api/sign-up', { body }))
    session.enter(
      await take(api.POST('/api/sign-in', { body: { email: body.email, password: body.password } })),
    )
    await arrive('/')
  } catch (error) {
    wrong.value = {
      field: error instanceof ApiError ? error.field : undefined,
      message: (error as Error).message,
    }
  } finally {
    busy.value = false
  }
}

const wrongAt = (field: string) => (wrong.value?.field === field ? wrong.value.message : undefined)
</script>

<template>
  <AccountFrame
    title="Open an account"
    text="Choose the address you will hand out. You can change it later; the old one goes on working."
  >
    <form class="account-form" novalidate @submit.prevent="signUp">
      <p v-if="wrong && !wrong.field" role="alert" class="notice">{{ wrong.message }}</p>
      <div class="field">
        <label for="page-address">Page address</label>
        <InputText
          id="page-address"
          v-model="pageAddress"
          autocapitalize="none"
          autocomplete="off"
          spellcheck="false"
          aria-describedby="page-address-hint"
          :invalid="!!wrongAt('pageAddress')"
        />
        <p
          id="page-address-hint"
          :class="wrongAt('pageAddress') ? 'wrong' : 'hint'"
          :role="wrongAt('pageAddress') ? 'alert' : undefined"
        >
          {{ wrongAt('pageAddress') ?? 'Usually your brand’s name: letters, digits and hyphens.' }}
        </p>
      </div>
      <div class="field">
        <label for="email">E-mail address</label>
        <InputText
          id="email"
          v-model="email"
          type="email"
          autocomplete="username"
          :invalid="!!wrongAt('email')"
          aria-describedby="email-hint"
        />
        <p v-if="wrongAt('email')" id="email-hint" class="wrong" role="alert">{{ wrongAt('email') }}</p>
      </div>
      <FieldPassword
        v-model="password"
        autocomplete="new-password"
        hint="12 characters or more. A few words in a row are easy to remember."
        :wrong="wrongAt('password')"
      />
      <Button type="submit" label="Open account" :loading="busy" />
    </form>
    <p class="small">
      You have one? <RouterLink class="other-way" :to="{ name: 'sign-in' }">Sign in</RouterLink>
    </p>
  </AccountFrame>
</template>

<style scoped>
.account-form {
  display: grid;
  gap: 16px;
}
</style>
