<script setup lang="ts">
import SettingsFrame from '@/settings/SettingsFrame.vue'
import JournalList from './JournalList.vue'
</script>

<template>
  <SettingsFrame :title="$t('journal.journal')">
    <template #lead>{{ $t('journal.whoDidWhat') }}</template>
    <JournalList />
  </SettingsFrame>
</template>
