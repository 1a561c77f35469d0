<script setup lang="ts">
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import { ref, useId } from 'vue'
import { ApiError, type WebhookWish } from '@/api/client'
import FieldText from '@/fields/FieldText.vue'
import WrongText from '@/fields/WrongText.vue'
import { KINDS } from './programWords'

/** Where somebody wants to be told, and of what. */
const props = defineProps<{
  label: string
  busy: boolean
  error: Error | null
  wish?: WebhookWish
}>()
const emit = defineEmits<{ submit: [wish: WebhookWish]; cancel: [] }>()
const id = useId()
const address = ref(props.wish?.address ?? '')
const kinds = ref<WebhookWish['kinds']>([...(props.wish?.kinds ?? KINDS.map(({ value }) => value))])
const clicks = ref(String(props.wish?.clicks || 100))
const wrongAt = (field: string) =>
  props.error instanceof ApiError && props.error.field === field ? props.error.message : undefined
const wrongElse = () => (['address', 'kinds', 'clicks'].some(wrongAt) ? undefined : props.error?.message)
const submit = () =>
  emit('submit', {
    address: address.value,
    kinds: kinds.value,
    clicks: Number(clicks.value.replace(/\D/g, '')),
  })
</script>

<template>
  <form class="account-form" novalidate @submit.prevent="submit">
    <FieldText
      v-model="address"
      :label="$t('programs.whereTo')"
      inputmode="url"
      placeholder="https://"
      :wrong="wrongAt('address')"
    />
    <fieldset>
      <legend>{{ $t('programs.ofWhat') }}</legend>
      <div v-for="kind in KINDS" :key="kind.value" class="kind">
        <Checkbox v-model="kinds" :input-id="`${id}-${kind.value}`" :value="kind.value" />
        <label :for="`${id}-${kind.value}`">{{ kind.label }}</label>
      </div>
      <WrongText :text="wrongAt('kinds')" />
    </fieldset>
    <FieldText
      v-if="kinds.includes('clicks.reached')"
      v-model="clicks"
      :label="$t('programs.fromHowMany')"
      inputmode="decimal"
      :maxlength="8"
      :wrong="wrongAt('clicks')"
    />
    <WrongText :text="wrongElse()" />
    <div class="acts">
      <Button type="submit" :label="label" :loading="busy" :disabled="!address" />
      <Button severity="secondary" text :label="$t('common.cancel')" @click="emit('cancel')" />
    </div>
  </form>
</template>

<style scoped>
.account-form {
  width: min(100%, 27rem);
}
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
  display: grid;
  gap: 8px;
}
legend {
  font-weight: 600;
  font-size: 0.9rem;
  padding: 0;
  margin-bottom: 6px;
}
.kind {
  display: flex;
  align-items: center;
  gap: 10px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
