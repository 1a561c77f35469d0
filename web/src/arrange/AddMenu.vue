<script setup lang="ts">
import { Plus } from '@lucide/vue'
import Menu from 'primevue/menu'
import { ref, useTemplateRef, type Component } from 'vue'
import { KINDS, type KindEntry } from '@/kinds/registry'

/** Adds a block that cannot be pasted: a heading, a quote, pictures. */
const emit = defineEmits<{ add: [kind: KindEntry] }>()
const menu = useTemplateRef('menu')
const open = ref(false)

const items = KINDS.map((kind) => ({
  label: kind.label,
  drawing: kind.icon as Component,
  command: () => emit('add', kind as unknown as KindEntry),
}))
</script>

<template>
  <button
    class="add"
    type="button"
    aria-haspopup="menu"
    aria-controls="kinds-of-block"
    :aria-expanded="open"
    @click="menu?.toggle($event)"
  >
    <Plus aria-hidden="true" />{{ $t('arrange.addABlock') }}
  </button>
  <Menu
    id="kinds-of-block"
    ref="menu"
    popup
    append-to="main"
    class="kinds"
    :model="items"
    :aria-label="$t('arrange.kindsOfBlock')"
    @show="open = true"
    @hide="open = false"
  >
    <template #item="{ item, props }">
      <a v-bind="props.action">
        <component :is="item.drawing" aria-hidden="true" /><span>{{ item.label }}</span>
      </a>
    </template>
  </Menu>
</template>

<style>
.kinds .p-menu-list {
  display: grid;
  grid-template-columns: 1fr;
}
.kinds .p-menu-item-link svg {
  width: 18px;
  height: 18px;
  color: var(--accent);
}
</style>

<style scoped>
.add {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  height: 34px;
  padding: 0 12px 0 8px;
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  background: var(--surface);
  color: var(--ink);
  cursor: pointer;
  white-space: nowrap;
}
.add svg {
  width: 16px;
  height: 16px;
}
</style>
