<script setup lang="ts">
import { onMounted, useTemplateRef, watch } from 'vue'
import { usePageStyle } from './pageStyle'

/**
 * A piece of the page, exactly as visitors see it: the renderer's HTML with the
 * page's own style sheet, in a shadow root so that neither look touches the
 * other. It is there to be looked at; its row is what is worked with.
 */
const props = defineProps<{ html: string }>()

const host = useTemplateRef('host')
const style = usePageStyle()
let root: ShadowRoot | undefined

function draw() {
  if (!root) return
  root.adoptedStyleSheets = style.value ? [style.value] : []
  // Drawn by our own renderer, which escapes what the creator wrote.
  root.innerHTML = `<div class="page"><div inert>${props.html}</div></div>`
}

onMounted(() => {
  root = host.value?.attachShadow({ mode: 'open' })
  draw()
})
watch([() => props.html, style], draw)
</script>

<template>
  <div ref="host" class="fragment"></div>
</template>

<style scoped>
/* On a phone the strip is drawn smaller, so that lines break where they will. */
.fragment {
  zoom: var(--zoom, 1);
}
</style>
