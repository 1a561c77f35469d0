<script setup lang="ts">
import { computed } from 'vue'
import type { PageSummary } from '@/api/client'
import { nameOf } from './standing'

/** The picture a page is known by, or the first letter of its name. */
const props = defineProps<{ page: PageSummary; size: number }>()
const picture = computed(() => props.page.picture?.sizes?.[0]?.media ?? props.page.picture?.media)
</script>

<template>
  <span class="mark" :style="{ width: `${size}px`, height: `${size}px` }" aria-hidden="true">
    <img v-if="picture" :src="`/media/${picture}`" alt="" loading="lazy" />
    <template v-else>{{ [...nameOf(page)][0]?.toUpperCase() }}</template>
  </span>
</template>

<style scoped>
.mark {
  display: grid;
  place-items: center;
  flex: none;
  border-radius: 50%;
  overflow: hidden;
  border: 1px solid var(--line-strong);
  background: var(--sunk);
  font-family: var(--font-head);
  font-weight: 600;
}
img {
  width: 100%;
  height: 100%;
  object-fit: cover;
}
</style>
