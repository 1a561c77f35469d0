<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref } from 'vue'
import { ApiError, api, take } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
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
  <AccountFrame :title="$t('account.openAnAccount')" :text="$t('account.chooseTheAddressYouWill')">
    <form class="account-form" novalidate @submit.prevent="signUp">
      <p v-if="wrong && !wrong.field" role="alert" class="notice">{{ wrong.message }}</p>
      <div class="field">
        <label for="page-address">{{ $t('account.pageAddress') }}</label>
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
          {{ wrongAt('pageAddress') ?? $t('account.usuallyYourBrandsNameLetters') }}
        </p>
      </div>
      <div class="field">
        <label for="email">{{ $t('account.eMailAddress') }}</label>
        <InputText
          id="email"
          v-model="email"
          type="email"
          autocomplete="username"
          :invalid="!!wrongAt('email')"
          aria-describedby="email-hint"
        />
        <WrongText id="email-hint" :text="wrongAt('email')" />
      </div>
      <FieldPassword
        v-model="password"
        autocomplete="new-password"
        :hint="$t('account.charactersOrMoreAFew')"
        :wrong="wrongAt('password')"
      />
      <Button type="submit" :label="$t('account.openAccount')" :loading="busy" />
    </form>
    <i18n-t keypath="account.youHaveOne" tag="p" class="small" scope="global">
      <template #link
        ><RouterLink class="other-way" :to="{ name: 'sign-in' }">{{
          $t('account.signIn')
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
