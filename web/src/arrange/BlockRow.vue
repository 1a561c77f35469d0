<script setup lang="ts">
import { Eye, EyeOff, GripVertical } from '@lucide/vue'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import type { Block } from '@/api/client'
import type { components } from '@/api/generated/schema'
import { count, counted, percent, rateWords } from '@/figures'
import { usePageStore } from '@/page/pageStore'
import RateWhisker from '@/readings/RateWhisker.vue'
import type { Lane } from '@/sourceColours'
import StripFragment from './StripFragment.vue'

/** One block: its handles, the block as visitors see it, and its figures from each source. */
const props = defineProps<{
  block: Block
  /** Place on the page from 1; 0 when it is hidden. */
  place: number
  html: string
  figures?: components['schemas']['BlockReading']
  lanes: Lane[]
  /** The largest cell of the table; what the tints are measured against. */
  most: number
  widestRate: number
  /** Whether there are enough visits for a rate to be coloured. */
  enough: boolean
  open: boolean
  tabStop: boolean
}>()
const emit = defineEmits<{ open: []; toggle: [] }>()

const page = usePageStore()
const renaming = ref(false)
const draft = ref('')
const input = useTemplateRef<HTMLInputElement>('input')
const row = useTemplateRef<HTMLElement>('row')

const title = computed(() => props.block.button?.title ?? '')
const label = computed(() => `${props.place ? `Place ${props.place}` : 'Hidden'}: ${title.value}`)

// On a phone the editor comes up from below; the row it is about stays in view.
watch(
  () => props.open,
  (open) => {
    if (open && matchMedia('(max-width: 720px)').matches) row.value?.scrollIntoView({ block: 'start' })
  },
)

async function rename() {
  draft.value = title.value
  renaming.value = true
  await nextTick()
  input.value?.select()
}

function finish(keep: boolean) {
  if (!renaming.value) return
  renaming.value = false
  if (keep) {
    page.changeBlock(`Rename “${title.value}”`, props.block.key, (block) => {
      if (block.button) block.button.title = draft.value.trim()
    })
  }
  row.value?.focus()
}

function onKey(event: KeyboardEvent) {
  if (event.target !== row.value) return
  if (event.key === 'F2' || event.key === 'r') {
    event.preventDefault()
    void rename()
  }
}

function cell(lane: string) {
  return props.figures?.bySource[lane]
}

function tint(lane: string) {
  const clicks = cell(lane)?.clicks ?? 0
  return `${Math.round((clicks / props.most) * 55)}%`
}

function cellWords(lane: Lane) {
  const figures = cell(lane.id)
  return figures
    ? `${lane.name}: ${counted(figures.clicks, 'click')}; ${rateWords(figures.rate, 'pressed it', 'visits')}`
    : `${lane.name}: not shown`
}
</script>

<template>
  <li
    ref="row"
    class="row"
    :class="{ hidden: !block.shown, open }"
    :data-key="block.key"
    :tabindex="tabStop ? 0 : -1"
    :aria-label="label"
    @keydown="onKey"
  >
    <div class="gutter">
      <span class="grip" aria-hidden="true"><GripVertical /></span>
      <span class="place">{{ place || '–' }}</span>
      <button
        class="tool"
        type="button"
        tabindex="-1"
        :aria-label="`${block.shown ? 'Hide' : 'Show'} “${title}”`"
        :aria-pressed="!block.shown"
        @click="emit('toggle')"
      >
        <Eye v-if="block.shown" aria-hidden="true" /><EyeOff v-else aria-hidden="true" />
      </button>
    </div>
    <div class="piece" @click="emit('open')" @dblclick="rename">
      <StripFragment :html="html" />
      <input
        v-if="renaming"
        ref="input"
        v-model="draft"
        class="rename"
        aria-label="Title"
        maxlength="120"
        @click.stop
        @dblclick.stop
        @keydown.enter.stop="finish(true)"
        @keydown.esc.stop="finish(false)"
        @keydown.stop
        @blur="finish(true)"
      />
    </div>
    <div class="figures">
      <span
        v-for="lane in lanes"
        :key="lane.id"
        v-tooltip.top="cellWords(lane)"
        class="cell"
        :class="{ none: !cell(lane.id)?.clicks }"
        :style="{ '--colour': lane.colour, '--tint': tint(lane.id) }"
        :data-lane="lane.name"
        >{{ cell(lane.id) ? count(cell(lane.id)!.clicks) : '' }}</span
      >
      <span class="cell total">{{ count(figures?.total.clicks ?? 0) }}</span>
      <span
        v-if="figures && figures.total.rate.of > 0"
        v-tooltip.top="rateWords(figures.total.rate, 'pressed it', 'visits that were shown it')"
        class="rate"
        :class="{ pale: !enough }"
      >
        <RateWhisker :rate="figures.total.rate" :widest="widestRate" /><span>{{
          percent(figures.total.rate.rate)
        }}</span>
      </span>
    </div>
  </li>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: var(--gutter) var(--strip) minmax(0, 1fr);
  align-items: stretch;
  scroll-margin: 130px;
}
.row:focus-visible {
  outline: none;
}
.row:focus-visible .piece,
.row.open .piece {
  box-shadow: inset 0 0 0 2px var(--accent);
}
.gutter {
  display: flex;
  align-items: center;
  gap: 4px;
  padding-right: 10px;
}
.grip {
  color: var(--line-strong);
  cursor: grab;
  display: grid;
  padding: 10px 2px;
  touch-action: none;
}
.grip svg {
  width: 16px;
  height: 16px;
}
.place {
  min-width: 20px;
  text-align: right;
  font-weight: 600;
  color: var(--ink-soft);
}
.gutter .tool {
  margin-left: auto;
}
.piece {
  position: relative;
  background: #f3eee4;
  padding: 6px 20px;
  border: 1px solid var(--line-strong);
  border-width: 0 1px;
  cursor: pointer;
}
.hidden .fragment {
  opacity: 0.4;
  filter: grayscale(0.6);
}
.rename {
  position: absolute;
  inset: 6px 20px;
  border: 2px solid var(--accent);
  border-radius: 12px;
  background: #fffdf8;
  color: #1f1b16;
  font:
    600 17px/1.25 ui-sans-serif,
    system-ui,
    sans-serif;
  text-align: center;
  width: calc(100% - 40px);
}
.figures {
  display: grid;
  grid-template-columns: var(--columns);
  align-items: stretch;
  margin-left: 20px;
  border-top: 1px solid var(--line);
}
.cell {
  display: grid;
  align-items: center;
  justify-items: end;
  padding: 0 8px 0 6px;
  background: color-mix(in srgb, var(--colour, transparent) var(--tint, 0%), transparent);
  border-left: 1px solid var(--line);
}
.cell.none {
  color: var(--ink-soft);
}
.cell.total {
  font-weight: 700;
  border-left: 2px solid var(--line-strong);
  background: none;
}
.rate {
  display: flex;
  align-items: center;
  gap: 10px;
  padding-left: 16px;
}
.rate.pale {
  color: var(--ink-soft);
}
.sortable-ghost {
  opacity: 0.4;
}
@media (max-width: 1080px) {
  .figures {
    grid-template-columns: 62px minmax(90px, 1fr);
  }
  .cell:not(.total) {
    display: none;
  }
}
@media (max-width: 720px) {
  .row {
    grid-template-columns: var(--gutter) minmax(0, 1fr) 54px;
  }
  .gutter {
    padding: 0;
    gap: 0;
    justify-content: center;
  }
  .gutter .tool {
    display: none;
  }
  .place {
    min-width: 14px;
    font-size: 0.8rem;
  }
  .piece {
    padding: calc(6px * var(--zoom)) calc(20px * var(--zoom));
  }
  .rename {
    inset: 4px 12px;
    width: calc(100% - 24px);
  }
  .figures {
    grid-template-columns: 54px;
    margin: 0;
  }
  .rate {
    display: none;
  }
}
</style>
