<script setup lang="ts">
/** The two parts of the Shelf. */
</script>

<template>
  <nav class="parts" :aria-label="$t('shelf.parts')">
    <RouterLink :class="{ here: $route.name === 'shelf' }" :to="{ name: 'shelf' }">{{
      $t('shelf.shortLinks')
    }}</RouterLink>
    <RouterLink :class="{ here: $route.name === 'destinations' }" :to="{ name: 'destinations' }">{{
      $t('shelf.destinations')
    }}</RouterLink>
  </nav>
</template>

<style scoped>
.parts {
  display: flex;
  gap: 18px;
}
a {
  padding: 6px 0;
  color: var(--ink-soft);
  text-decoration: none;
  border-bottom: 2px solid transparent;
}
a.here {
  color: var(--ink);
  font-weight: 600;
  border-color: var(--accent);
}
</style>
