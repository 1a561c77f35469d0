<script setup lang="ts">
/** A piece of the page that is no block: all of it opens its editor. */
defineProps<{ name: string; label: string; open: boolean }>()
const emit = defineEmits<{ open: [] }>()
</script>

<template>
  <div class="piece" :class="{ open }" :data-row="name">
    <button class="press" type="button" :aria-label="label" @click="emit('open')"></button>
    <slot />
  </div>
</template>

<style scoped>
.piece {
  position: relative;
  padding: 6px 20px;
  cursor: pointer;
}
.piece.open,
.piece:hover {
  box-shadow: inset 0 0 0 2px var(--accent);
}
.press {
  position: absolute;
  inset: 0;
  border: 0;
  border-radius: inherit;
  background: none;
  cursor: pointer;
  z-index: 1;
}
@media (max-width: 720px) {
  .piece {
    padding: calc(6px * var(--zoom)) calc(20px * var(--zoom));
  }
}
</style>
