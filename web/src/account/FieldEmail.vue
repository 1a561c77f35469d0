<script setup lang="ts">
import InputText from 'primevue/inputtext'
import WrongText from '@/fields/WrongText.vue'

/** Somebody’s e-mail address. */
defineProps<{ label?: string; wrong?: string | undefined }>()
const email = defineModel<string>({ required: true })
</script>

<template>
  <div class="field">
    <label for="email">{{ label ?? $t('account.eMailAddress') }}</label>
    <InputText
      id="email"
      v-model="email"
      type="email"
      autocomplete="username"
      :invalid="!!wrong"
      aria-describedby="email-hint"
    />
    <WrongText id="email-hint" :text="wrong" />
  </div>
</template>
