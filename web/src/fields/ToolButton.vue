<script setup lang="ts">
import type { Component } from 'vue'

/** A button that is a small drawing and says aloud what it does. */
defineProps<{ icon: Component; label: string }>()
</script>

<template>
  <button class="tool" type="button" :aria-label="label"><component :is="icon" aria-hidden="true" /></button>
</template>
