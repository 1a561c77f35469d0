<script setup lang="ts">
/** Settings, one section under the other. */
defineProps<{ title: string }>()
defineSlots<{ default(): unknown; lead?(): unknown }>()
</script>

<template>
  <div class="view narrow">
    <div class="view-head">
      <div>
        <h1>{{ title }}</h1>
        <p v-if="$slots.lead"><slot name="lead" /></p>
      </div>
    </div>
    <slot />
  </div>
</template>

<style scoped>
.narrow {
  max-width: 44rem;
}
.narrow :deep(> section) {
  display: grid;
  gap: 10px;
  padding: 20px 0;
  border-top: 1px solid var(--line);
  justify-items: start;
}
.narrow :deep(.line) {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 10px;
}
/* As high as the field beside it. */
.narrow :deep(.line .p-button) {
  height: 38px;
}
</style>
