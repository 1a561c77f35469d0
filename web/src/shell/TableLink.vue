<script setup lang="ts">
import { Download } from '@lucide/vue'

/** Takes what is on a screen along as a table. */
defineProps<{ href: string }>()
</script>

<template>
  <a class="save" :href="href" download> <Download aria-hidden="true" /> {{ $t('signUps.asTable') }} </a>
</template>

<style scoped>
.save {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  padding: 4px 12px;
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  background: var(--surface);
  color: var(--ink);
  text-decoration: none;
  font-size: 0.875rem;
}
.save svg {
  width: 15px;
  height: 15px;
}
</style>
