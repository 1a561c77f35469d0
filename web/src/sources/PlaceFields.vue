<script setup lang="ts">
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import Textarea from 'primevue/textarea'
import { computed, useId } from 'vue'
import type { Place } from '@/api/client'
import { hasProfile, KINDS } from './places'

/** What a source is, and what it can be known by besides its tag. */
const place = defineModel<Place>({ required: true })
const props = defineProps<{ all?: boolean }>()
const id = useId()

const set = (change: Partial<Place>) => (place.value = { ...place.value, ...change })
const lines = (text: string | undefined) => (text ?? '').split('\n').filter((line) => line.trim() !== '')
const profile = computed(() => place.value.profiles[0] ?? '')
</script>

<template>
  <div class="field">
    <span :id="`${id}-kind`" class="label">{{ $t('sources.kind') }}</span>
    <Select
      :model-value="place.kind"
      :aria-labelledby="`${id}-kind`"
      :options="[...KINDS]"
      option-value="value"
      option-label="label"
      @update:model-value="set({ kind: $event, medium: '' })"
    />
  </div>
  <div v-if="!props.all && hasProfile(place.kind)" class="field wide">
    <label :for="`${id}-profile`">{{ $t('sources.itsOwnAddressIf') }}</label>
    <InputText
      :id="`${id}-profile`"
      :model-value="profile"
      inputmode="url"
      :placeholder="$t('sources.httpsNetworkExampleYourName')"
      autocomplete="off"
      spellcheck="false"
      @update:model-value="set({ profiles: $event ? [$event] : [] })"
    />
  </div>
  <template v-if="props.all">
    <div class="field">
      <label :for="`${id}-medium`">{{ $t('common.medium') }}</label>
      <InputText
        :id="`${id}-medium`"
        :model-value="place.medium"
        maxlength="100"
        autocapitalize="none"
        autocomplete="off"
        @update:model-value="set({ medium: $event ?? '' })"
      />
    </div>
    <div class="field wide">
      <label :for="`${id}-profiles`">{{ $t('sources.profileAddressesOneALine') }}</label>
      <Textarea
        :id="`${id}-profiles`"
        :model-value="place.profiles.join('\n')"
        rows="2"
        spellcheck="false"
        @change="set({ profiles: lines(($event.target as HTMLTextAreaElement).value) })"
      />
      <p class="hint">{{ $t('sources.visitsWhoseBrowserSays') }}</p>
    </div>
    <div class="field wide">
      <label :for="`${id}-names`">{{ $t('sources.otherNamesInUtmSource') }}</label>
      <Textarea
        :id="`${id}-names`"
        :model-value="place.names.join('\n')"
        rows="2"
        spellcheck="false"
        @change="set({ names: lines(($event.target as HTMLTextAreaElement).value) })"
      />
    </div>
  </template>
</template>

<style scoped>
.wide {
  flex: 1 1 16rem;
}
.label {
  font-weight: 600;
  font-size: 0.9rem;
}
</style>
