<script setup lang="ts">
import InputText from 'primevue/inputtext'
import { useId } from 'vue'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'

/** A password, with what is said of it below: what is wrong with it, or how to choose one. */
const {
  label = t('account.password'),
  autocomplete = 'current-password',
  hint = undefined,
  wrong = undefined,
} = defineProps<{
  label?: string
  autocomplete?: string
  hint?: string
  wrong?: string
}>()
defineOptions({ inheritAttrs: false })
const password = defineModel<string>({ required: true })
const id = useId()
</script>

<template>
  <div class="field">
    <label :for="id">{{ label }}</label>
    <InputText
      :id="id"
      v-model="password"
      type="password"
      :autocomplete="autocomplete"
      :invalid="!!wrong"
      :aria-describedby="wrong || hint ? `${id}-says` : undefined"
      v-bind="$attrs"
    />
    <WrongText :id="`${id}-says`" :text="wrong" />
    <p v-if="!wrong && hint" :id="`${id}-says`" class="hint">{{ hint }}</p>
  </div>
</template>
