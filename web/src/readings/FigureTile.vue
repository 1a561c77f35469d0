<script setup lang="ts">
/** One headline figure, with what is to be said of it below. */
defineProps<{ label: string; value: string; first?: boolean }>()
</script>

<template>
  <div class="figure" :class="{ first }">
    <h2>{{ label }}</h2>
    <p class="value">{{ value }}</p>
    <slot />
  </div>
</template>

<style scoped>
.figure {
  padding: 14px 18px;
  border-left: 1px solid var(--line);
}
.figure.first {
  border: 0;
}
h2 {
  font: 500 0.87rem var(--font-text);
  letter-spacing: 0;
  color: var(--ink-soft);
}
.value {
  font: 650 1.75rem/1.2 var(--font-head);
}
.first .value {
  font-size: 2.3rem;
  color: var(--accent);
  line-height: 1.05;
}
.figure :deep(.note) {
  font-size: 0.8rem;
  color: var(--ink-soft);
  display: flex;
  align-items: center;
  gap: 8px;
}
.figure :deep(.amber) {
  color: var(--amber);
}
@media (max-width: 1100px) {
  .figure {
    border-top: 1px solid var(--line);
  }
}
@media (max-width: 720px) {
  .figure {
    padding: 10px 12px;
    border-left: 0;
  }
  .figure.first {
    grid-column: 1 / -1;
  }
}
</style>
