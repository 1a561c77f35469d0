<script setup lang="ts">
defineProps<{ size: number }>()
</script>

<template>
  <svg :width="size" :height="size" viewBox="0 0 32 32" fill="none" stroke-linecap="round" aria-hidden="true">
    <g stroke="var(--accent)" stroke-width="2.2">
      <path d="M2 4c7 0 7 8 14 8s7-5 14-5" />
      <path d="M2 16h28" />
      <path d="M2 28c7 0 7-8 14-8s7 5 14 5" />
    </g>
    <ellipse cx="16" cy="16" rx="4" ry="9" stroke="#c9771b" stroke-width="2.6" />
  </svg>
</template>
