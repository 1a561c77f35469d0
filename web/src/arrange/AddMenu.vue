<script setup lang="ts">
import { Plus } from '@lucide/vue'
import Popover from 'primevue/popover'
import { useTemplateRef } from 'vue'
import { KINDS, type KindEntry } from '@/kinds/registry'

/** Adds a block that cannot be pasted: a heading, a quote, pictures. */
const emit = defineEmits<{ add: [kind: KindEntry] }>()
const menu = useTemplateRef('menu')

function choose(kind: KindEntry) {
  menu.value?.hide()
  emit('add', kind)
}
</script>

<template>
  <button class="add" type="button" aria-haspopup="true" @click="menu?.toggle($event)">
    <Plus aria-hidden="true" />Add a block
  </button>
  <Popover ref="menu" aria-label="Kinds of block">
    <div class="kinds">
      <button
        v-for="kind in KINDS"
        :key="kind.kind"
        type="button"
        @click="choose(kind as unknown as KindEntry)"
      >
        <component :is="kind.icon" aria-hidden="true" /><span>{{ kind.label }}</span>
      </button>
    </div>
  </Popover>
</template>

<style scoped>
.add {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  height: 34px;
  padding: 0 12px 0 8px;
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  cursor: pointer;
  white-space: nowrap;
}
.add svg {
  width: 16px;
  height: 16px;
}
.kinds {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 2px;
  min-width: 17rem;
}
.kinds button {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 8px 10px;
  border: 0;
  border-radius: 4px;
  background: none;
  color: inherit;
  text-align: left;
  cursor: pointer;
}
.kinds button:hover {
  background: var(--sunk);
}
.kinds svg {
  width: 18px;
  height: 18px;
  color: var(--accent);
}
</style>
