<script setup lang="ts">
import type { RouteLocationRaw } from 'vue-router'
import AccountFrame from './AccountFrame.vue'

/** A link of a letter that opens nothing any more, and the way to another. */
defineProps<{ says: string; way: RouteLocationRaw; label: string }>()
</script>

<template>
  <AccountFrame :title="$t('account.thisLinkIsOver')" :text="says">
    <p>
      <RouterLink class="other-way" :to="way">{{ label }}</RouterLink>
    </p>
  </AccountFrame>
</template>
