<script setup lang="ts">
import SettingsFrame from '@/settings/SettingsFrame.vue'
import { useMay } from '@/team/useMay'
import OwnTokens from './OwnTokens.vue'
import WebhookList from './WebhookList.vue'

/** What programs get in with, and what they are told. */
const may = useMay()
</script>

<template>
  <SettingsFrame :title="$t('programs.programs')">
    <template #lead>
      {{ $t('programs.lead') }}
      <a href="/api/guide" target="_blank">{{ $t('programs.whatTheyCanDo') }}</a>
    </template>
    <OwnTokens />
    <WebhookList v-if="may.run.value" />
  </SettingsFrame>
</template>
