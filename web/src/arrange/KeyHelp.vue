<script setup lang="ts">
/** What the keys do, below the rows. */
</script>

<template>
  <i18n-t keypath="arrange.keys" tag="p" class="keys small soft" scope="global">
    <template #arrows><kbd>↑</kbd> <kbd>↓</kbd></template>
    <template #alt><kbd>Alt</kbd></template>
    <template #ends><kbd>Home</kbd> <kbd>End</kbd></template>
    <template #enter><kbd>Enter</kbd></template>
    <template #rename><kbd>F2</kbd></template>
    <template #right><kbd>→</kbd></template>
    <template #duplicate><kbd>D</kbd></template>
    <template #hide><kbd>H</kbd></template>
    <template #delete><kbd>Del</kbd></template>
    <template #undo><kbd>Ctrl</kbd> <kbd>Z</kbd></template>
  </i18n-t>
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
