<script setup lang="ts">
defineProps<{ size: number }>()
</script>

<template>
  <svg :width="size" :height="size" viewBox="0 0 32 32" fill="none" stroke-linecap="round" aria-hidden="true">
    <g stroke="var(--accent)" stroke-width="2.2">
      <path d="M2 5c9 0 8 9 14 11s8 9 14 9" />
      <path d="M2 12c7 0 8 3 14 4s8 2 14 2" />
      <path d="M2 20c7 0 8-3 14-4s8-4 14-4" />
      <path d="M2 27c9 0 8-9 14-11s8-9 14-9" />
    </g>
    <ellipse cx="16" cy="16" rx="3.6" ry="8.5" stroke="#c9771b" stroke-width="2.6" />
  </svg>
</template>
