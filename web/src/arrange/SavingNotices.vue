<script setup lang="ts">
import { usePageStore } from '@/page/pageStore'

/** What stands in the way of saving, and what was just deleted, each with the way out. */
defineProps<{ deleted: string | undefined }>()
const page = usePageStore()
</script>

<template>
  <div v-if="page.newer" class="notice banner" role="alert">
    <span>{{ page.problem }}</span>
    <button class="link" type="button" @click="page.takeNewer">Take the newer page</button>
    <button class="link" type="button" @click="page.keepMine">Keep what is on my screen</button>
  </div>
  <div v-else-if="page.saving === 'refused' || page.saving === 'waiting'" class="notice banner" role="alert">
    <span>{{ page.problem }}</span>
    <button v-if="page.saving === 'refused'" class="link" type="button" @click="page.undo">
      Undo the last change
    </button>
  </div>
  <p v-if="deleted && page.undoable === deleted" class="notice plain banner" role="status">
    <span>{{ deleted.replace('Delete ', '') }} is deleted. Its figures are kept.</span>
    <button class="link" type="button" @click="page.undo">Undo</button>
  </p>
</template>

<style scoped>
.banner {
  margin: 0 0 14px var(--gutter);
  max-width: 60rem;
}
.link {
  border: 0;
  background: none;
  padding: 0;
  color: var(--accent);
  font-weight: 600;
  text-decoration: underline;
  cursor: pointer;
}
@media (max-width: 720px) {
  .banner {
    margin-left: 0;
  }
}
</style>
