<script setup lang="ts">
/** Why something could not be done, read out as soon as it stands there. */
defineProps<{ text: string | undefined }>()
</script>

<template>
  <p v-if="text" class="wrong" role="alert">{{ text }}</p>
</template>
