<script setup lang="ts">
import Button from 'primevue/button'
import type { Document } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import FieldText from '@/fields/FieldText.vue'
import { t } from '@/i18n'

/** One tracking code: whose it is, what it is, where it goes, whom it talks to, whether it asks. */
type Code = NonNullable<Document['codes']>[number]
defineProps<{ code: Code; cost: string | undefined }>()
const emit = defineEmits<{ set: [change: Partial<Code>, join?: string]; weigh: []; remove: [] }>()

const WHERE = [
  { value: 'head', label: t('settings.inTheHead') },
  { value: 'begin', label: t('settings.atTheBeginning') },
  { value: 'end', label: t('settings.atTheEnd') },
] as const

const hostsIn = (text: string) => text.split(/[\s,;]+/).filter(Boolean)
</script>

<template>
  <div class="fields">
    <FieldSwitch
      :label="$t('settings.runsOnThePage')"
      :model-value="code.on"
      @update:model-value="emit('set', { on: $event })"
    />
    <FieldText
      :label="$t('settings.whoseCode')"
      :model-value="code.name"
      :maxlength="60"
      :at="`codes/${code.key}/name`"
      :hint="$t('settings.visitorsReadIt')"
      @update:model-value="emit('set', { name: $event }, 'name')"
    />
    <FieldText
      :label="$t('settings.theCode')"
      :model-value="code.code"
      :maxlength="8192"
      :lines="6"
      :at="`codes/${code.key}/code`"
      @update:model-value="emit('set', { code: $event }, 'code')"
    />
    <p class="cost" role="status">
      {{ cost }}
      <Button
        size="small"
        severity="secondary"
        text
        :label="$t('settings.whatItCosts')"
        @click="emit('weigh')"
      />
    </p>
    <FieldText
      :label="$t('settings.hostsItTalksTo')"
      :model-value="code.hosts.join('\n')"
      :lines="3"
      lazy
      :at="`codes/${code.key}/hosts`"
      :hint="$t('settings.noOthersAreLetIn')"
      @update:model-value="emit('set', { hosts: hostsIn($event) })"
    />
    <FieldChoice
      :label="$t('settings.whereItGoes')"
      :model-value="code.where ?? 'head'"
      :options="WHERE"
      @update:model-value="emit('set', { where: $event })"
    />
    <FieldSwitch
      :label="$t('settings.visitorsAreAsked')"
      :hint="$t('settings.declareThatNoneIsNeeded')"
      :model-value="!code.unasked"
      @update:model-value="emit('set', { unasked: !$event })"
    />
    <FieldText
      :label="$t('settings.noteForYourself')"
      :model-value="code.note"
      :maxlength="300"
      :lines="2"
      :at="`codes/${code.key}/note`"
      @update:model-value="emit('set', { note: $event }, 'note')"
    />
    <Button size="small" severity="secondary" :label="$t('settings.removeTheCode')" @click="emit('remove')" />
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 14px;
  width: min(100%, 34rem);
  padding: 8px 0 14px;
}
.cost {
  margin: 0;
}
</style>
