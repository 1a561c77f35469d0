<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import WrongText from '@/fields/WrongText.vue'
import { useAccountForm } from './useAccountForm'
import FieldPassword from './FieldPassword.vue'

/** A form that is sent with one’s password, so that nobody at an open screen takes an account over. */
const { act, fields = [] } = defineProps<{
  label: string
  /** What is done with the password. */
  act: (password: string) => Promise<unknown>
  /** Names of fields that say themselves what is wrong with them. */
  fields?: string[]
}>()
const emit = defineEmits<{ cancel: [] }>()
defineSlots<{ default(props: { wrongAt: (field: string) => string | undefined }): unknown }>()

const password = ref('')
const { busy, send, wrongAt, wrongElse } = useAccountForm()
const submit = () =>
  send(async () => {
    await act(password.value)
    password.value = ''
  })
</script>

<template>
  <form class="account-form proven" novalidate @submit.prevent="submit">
    <slot :wrong-at="wrongAt" />
    <FieldPassword v-model="password" :label="$t('settings.yourPassword')" :wrong="wrongAt('password')" />
    <WrongText :text="wrongElse('password', ...fields)" />
    <div class="acts">
      <Button type="submit" :label="label" :loading="busy" :disabled="!password" />
      <Button :label="$t('common.cancel')" severity="secondary" text @click="emit('cancel')" />
    </div>
  </form>
</template>

<style scoped>
.proven {
  max-width: 27rem;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
