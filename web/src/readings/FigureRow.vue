<script setup lang="ts">
/** Headline figures beside each other, the most important first. */
const props = defineProps<{ columns: number; old?: boolean }>()
const columns = `1.7fr repeat(${props.columns - 1}, 1fr)`
</script>

<template>
  <section class="headline" :class="{ old }" :style="{ '--columns': columns }"><slot /></section>
</template>

<style scoped>
.headline {
  display: grid;
  grid-template-columns: var(--columns);
  border: 1px solid var(--line-strong);
  border-radius: 6px;
  background: var(--surface);
}
.old {
  opacity: 0.6;
}
@media (max-width: 1100px) {
  .headline {
    grid-template-columns: repeat(3, 1fr);
  }
}
@media (max-width: 720px) {
  .headline {
    grid-template-columns: repeat(2, 1fr);
  }
}
</style>
