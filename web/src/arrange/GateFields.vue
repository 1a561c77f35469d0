<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref, useId } from 'vue'
import { api, take, type Document } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldText from '@/fields/FieldText.vue'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'

/** What stands before a page or a block: nothing, a notice, or a question for a passcode. */
type Gate = NonNullable<Document['gate']>
const gate = defineModel<Gate | undefined>({ required: true })
/** Whether a passcode can be asked for: it would protect nothing where everything stands on the page. */
const { locks = false } = defineProps<{ locks?: boolean }>()
const id = useId()
const all = [
  { value: 'open', label: t('arrange.gateOpen') },
  { value: 'notice', label: t('arrange.gateNotice') },
  { value: 'passcode', label: t('arrange.gatePasscode') },
] as const
const kinds = computed(() =>
  all.filter((each) => locks || each.value !== 'passcode' || kind.value === 'passcode'),
)
const kind = computed(() => (gate.value?.kind as 'notice' | 'passcode' | undefined) ?? 'open')

function choose(next: (typeof all)[number]['value']) {
  gate.value = next === 'open' ? undefined : { ...gate.value, kind: next }
}

const passcode = ref('')
const set = useMutation({
  mutationFn: () => take(api.POST('/api/passcodes', { body: { passcode: passcode.value } })),
  onSuccess: ({ id: passcodeId }) => {
    passcode.value = ''
    gate.value = { ...gate.value, kind: 'passcode', passcodeId }
  },
})
</script>

<template>
  <FieldChoice
    :label="$t('arrange.gate')"
    :model-value="kind"
    :options="kinds"
    @update:model-value="choose"
  />
  <template v-if="gate">
    <FieldText
      :label="$t('arrange.gateSays')"
      :model-value="gate.text"
      :maxlength="300"
      :lines="2"
      :placeholder="kind === 'passcode' ? $t('arrange.gateAsksByItself') : $t('arrange.gateSaysByItself')"
      @update:model-value="gate = { ...gate, kind, text: $event || undefined } as Gate"
    />
    <form v-if="kind === 'passcode'" class="passcode" @submit.prevent="set.mutate()">
      <div class="field">
        <label :for="id">{{ $t('arrange.passcode') }}</label>
        <InputText
          :id="id"
          v-model="passcode"
          autocomplete="off"
          maxlength="128"
          :placeholder="gate.passcodeId ? $t('arrange.passcodeIsSet') : ''"
        />
      </div>
      <Button
        type="submit"
        severity="secondary"
        :label="$t('arrange.setPasscode')"
        :disabled="!passcode.trim()"
        :loading="set.isPending.value"
      />
      <WrongText
        :text="set.error.value?.message ?? (gate.passcodeId ? undefined : $t('arrange.noPasscodeYet'))"
      />
    </form>
  </template>
</template>

<style scoped>
.passcode {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 10px;
}
</style>
