<script setup lang="ts">
import InputText from 'primevue/inputtext'
import { useId } from 'vue'

/** The code of an authenticator app, or a recovery code. */
defineProps<{ hint: string }>()
const code = defineModel<string>({ required: true })
const id = useId()
</script>

<template>
  <div class="field">
    <label :for="id">{{ $t('account.code') }}</label>
    <InputText
      :id="id"
      v-model="code"
      class="code"
      autocomplete="one-time-code"
      autocapitalize="none"
      spellcheck="false"
      required
      autofocus
      :aria-describedby="`${id}-hint`"
    />
    <p :id="`${id}-hint`" class="hint">{{ hint }}</p>
  </div>
</template>

<style scoped>
.code {
  font-variant-numeric: tabular-nums;
  letter-spacing: 0.12em;
}
</style>
