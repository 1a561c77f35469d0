<script setup lang="ts">
import { onMounted, useTemplateRef, watch } from 'vue'
import { loadFonts, pageStyleSheet } from './pageStyleSheet'
import type { Strip } from '@/api/client'

/**
 * A piece of the page, exactly as visitors see it: the renderer's HTML with the
 * page's own style sheet, in a shadow root so that neither look touches the
 * other. It is there to be looked at, not pressed.
 */
const props = defineProps<{
  html: string
  strip: Pick<Strip, 'style' | 'fonts' | 'align' | 'dir'>
  /** It fills the place it is put in: for what lies behind a page. */
  fill?: boolean
  /** It is a whole page, with its own margins. */
  whole?: boolean
}>()
const emit = defineEmits<{ drawn: [root: ShadowRoot] }>()

const host = useTemplateRef('host')
let root: ShadowRoot | undefined

function draw() {
  if (!root) return
  loadFonts(props.strip.fonts)
  root.adoptedStyleSheets = [pageStyleSheet(props.strip.style)]
  // Drawn by our own renderer, which escapes what the creator wrote.
  const inner = props.fill || props.whole ? props.html : `<div class="column bare">${props.html}</div>`
  const place = props.fill ? 'position:absolute;inset:0' : props.whole ? 'min-height:100%' : ''
  root.innerHTML = `<div class="page ${props.strip.align}" dir="${props.strip.dir}" style="${place}" inert>${inner}</div>`
  emit('drawn', root)
}

onMounted(() => {
  root = host.value?.attachShadow({ mode: 'open' })
  draw()
})
watch([() => props.html, () => props.strip.style, () => props.strip.align, () => props.strip.dir], draw)
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
