<script setup lang="ts">
import { X } from '@lucide/vue'
import { useEventListener } from '@vueuse/core'
import { onMounted, useTemplateRef } from 'vue'
import { overlayOpen } from '@/fields/overlays'
import { provideRefused } from '@/fields/refused'
import ToolButton from '@/fields/ToolButton.vue'
import { usePageStore } from '@/page/pageStore'

/** The editor of a row. It lies over the from lanes, so that the strip never moves. */
const props = defineProps<{
  title: string
  /** Where in the document the places of its fields begin. */
  at: string
}>()
const emit = defineEmits<{ close: [] }>()
const drawer = useTemplateRef<HTMLElement>('drawer')

const page = usePageStore()
provideRefused((place) => page.refusedAt(`${props.at}/${place}`))

/** Leaves the field first, so that what was typed into it is kept. */
function leave() {
  if (document.activeElement instanceof HTMLElement) document.activeElement.blur()
  emit('close')
}

// From wherever the focus is; a dialog over the editor is left first.
useEventListener(document, 'keydown', (event: KeyboardEvent) => {
  if (event.key === 'Escape' && !overlayOpen()) leave()
})

// What has the focus is never out of sight (WCAG 2.2, 2.4.11): the editor makes room for what lies under it.
useEventListener(document, 'focusin', ({ target }) =>
  requestAnimationFrame(() => covers(target) && emit('close')),
)

function covers(target: EventTarget | null) {
  if (!(target instanceof HTMLElement) || target !== document.activeElement || overlayOpen()) return false
  if (drawer.value?.contains(target) || target.contains(drawer.value)) return false
  const { left, top, width, height } = target.getBoundingClientRect()
  return !!drawer.value?.contains(document.elementFromPoint(left + width / 2, top + height / 2))
}

onMounted(() => {
  const first = drawer.value?.querySelector<HTMLElement>('.body input, .body textarea')
  first?.focus({ preventScroll: true })
  // Ready to be typed over, as after Tab.
  if (first instanceof HTMLInputElement) first.select()
})
</script>

<template>
  <aside ref="drawer" class="drawer" data-opened :aria-label="title">
    <header>
      <h2>{{ title }}</h2>
      <div class="tools"><slot name="tools" /></div>
      <ToolButton :icon="X" :label="$t('arrange.closeTheEditor')" @click="leave" />
    </header>
    <div class="body"><slot /></div>
    <footer v-if="$slots.footer"><slot name="footer" /></footer>
  </aside>
</template>

<style scoped>
.drawer {
  position: fixed;
  top: calc(var(--crown) + 16px);
  bottom: 16px;
  left: calc(var(--rail) + 28px + 92px + 360px + 20px);
  width: 400px;
  max-width: calc(100vw - var(--rail) - 28px - 92px - 360px - 36px);
  display: flex;
  flex-direction: column;
  background: var(--surface);
  border: 1px solid var(--line-strong);
  border-radius: 6px;
  box-shadow: 0 10px 40px rgb(0 0 0 / 18%);
  z-index: 8;
}
header {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: 14px 18px;
  border-bottom: 1px solid var(--line);
}
.tools {
  display: flex;
  gap: 2px;
  margin: 0 6px 0 auto;
}
.tools :deep(.tool:disabled) {
  opacity: 0.35;
}
.body {
  padding: 18px;
  display: grid;
  gap: 18px;
  align-content: start;
  overflow: auto;
  flex: 1;
}
footer {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  padding: 10px 18px;
  border-top: 1px solid var(--line);
}
@media (max-width: 900px) {
  .drawer {
    left: auto;
    right: 12px;
    max-width: calc(100vw - 24px);
  }
}
@media (max-width: 720px) {
  .drawer {
    inset: auto 0 0;
    width: auto;
    max-width: none;
    max-height: max(12rem, min(62dvh, calc(100dvh - var(--crown) - 8px)));
    border-radius: 12px 12px 0 0;
    z-index: 30;
    padding-bottom: env(safe-area-inset-bottom);
  }
}
</style>
