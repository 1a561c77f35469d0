<script setup lang="ts">
import type { IconEntry } from '@/api/client'

/** An icon out of the libraries, in the colour of the text around it or in its own. */
defineProps<{ icon: IconEntry; size?: number; branded?: boolean }>()
</script>

<template>
  <svg
    v-if="icon.set === 'marks'"
    viewBox="0 0 24 24"
    :width="size ?? 22"
    :height="size ?? 22"
    :fill="branded ? icon.colour : 'currentColor'"
    aria-hidden="true"
  >
    <path :d="icon.draws" />
  </svg>
  <!-- Elements of the vendored library; a test says that they are nothing but shapes. -->
  <!-- eslint-disable vue/no-v-html -->
  <svg
    v-else
    class="sign"
    viewBox="0 0 24 24"
    :width="size ?? 22"
    :height="size ?? 22"
    aria-hidden="true"
    v-html="icon.draws"
  />
  <!-- eslint-enable vue/no-v-html -->
</template>

<style scoped>
.sign {
  fill: none;
  stroke: currentColor;
  stroke-width: 2;
  stroke-linecap: round;
  stroke-linejoin: round;
}
</style>
