<script setup lang="ts">
import InputText from 'primevue/inputtext'

/** The address of a page to be. */
defineProps<{ wrong: string | undefined }>()
const address = defineModel<string>({ required: true })
</script>

<template>
  <div class="field">
    <label for="page-address">{{ $t('account.pageAddress') }}</label>
    <InputText
      id="page-address"
      v-model="address"
      autocapitalize="none"
      autocomplete="off"
      spellcheck="false"
      aria-describedby="page-address-hint"
      :invalid="!!wrong"
    />
    <p id="page-address-hint" :class="wrong ? 'wrong' : 'hint'" :role="wrong ? 'alert' : undefined">
      {{ wrong ?? $t('account.usuallyYourBrandsNameLetters') }}
    </p>
  </div>
</template>
