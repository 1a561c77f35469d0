<script setup lang="ts">
/** What the keys do, below the rows. */
</script>

<template>
  <p class="keys small soft">
    <kbd>↑</kbd> <kbd>↓</kbd> choose a row · <kbd>Alt</kbd> with them moves it, with <kbd>Home</kbd>
    <kbd>End</kbd> to the top or bottom · <kbd>Enter</kbd> opens it · <kbd>F2</kbd> renames ·
    <kbd>→</kbd> goes to its figures · <kbd>D</kbd> duplicates · <kbd>H</kbd> hides · <kbd>Del</kbd> deletes ·
    <kbd>Ctrl</kbd> <kbd>Z</kbd> undoes
  </p>
</template>

<style scoped>
.keys {
  margin: 18px 0 0 var(--gutter);
}
kbd {
  font: inherit;
  padding: 0 5px;
  border: 1px solid var(--line-strong);
  border-radius: 3px;
}
@media (max-width: 720px) {
  .keys {
    display: none;
  }
}
</style>
