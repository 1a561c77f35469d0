<script setup lang="ts">
import { CornerDownRight, Eye, EyeOff, GripVertical } from '@lucide/vue'
import { computed, nextTick, onMounted, ref, useTemplateRef, watch } from 'vue'
import type { Block, Strip } from '@/api/client'
import type { components } from '@/api/generated/schema'
import ToolButton from '@/fields/ToolButton.vue'
import { counted } from '@/figures'
import { t } from '@/i18n'
import { kindOf } from '@/kinds/registry'
import { canRename, rename as setTitle, titleOf } from '@/page/blockWords'
import PagePiece from '@/page/PagePiece.vue'
import { usePageStore } from '@/page/pageStore'
import type { Lane } from '@/sourceColours'
import RowFigures from './RowFigures.vue'
import { stateWords } from './stateWords'
import { useRibbon } from './useRibbon'
import WhenRibbon from './WhenRibbon.vue'

/** One block: its handles, the block as visitors see it, and its figures from each source. */
const props = withDefaults(
  defineProps<{
    block: Block
    /** Place on the page from 1; 0 when it is hidden. */
    place: number
    strip: Strip
    figures?: components['schemas']['BlockReading']
    lanes: Lane[]
    /** The largest cell of the table; what the tints are measured against. */
    most: number
    widestRate: number
    /** Whether there are enough visits for a rate to be coloured. */
    enough: boolean
    /** Clicks of today, where the range ends with yesterday. */
    today: number | undefined
    open: boolean
    /** Just added: its title is selected, ready to be typed over. */
    fresh: boolean
    tabStop: boolean
    /** Whether it shows at the moment and from the source the page is looked at as of; undefined for now. */
    seen?: boolean
    /** Whether another block stands alone now. */
    aside?: boolean
    /** How many lines its title takes on a small phone. */
    titleLines?: number
  }>(),
  { seen: undefined, figures: undefined, titleLines: 1 },
)
const emit = defineEmits<{ open: []; toggle: []; swap: [] }>()

const page = usePageStore()
const renaming = ref(false)
const draft = ref('')
const input = useTemplateRef<HTMLInputElement>('input')
const row = useTemplateRef<HTMLElement>('row')

const title = computed(() => titleOf(props.block))
const label = computed(
  () =>
    `${props.place ? t('arrange.placeNumber', { place: props.place }) : t('arrange.hidden')}: ${title.value}`,
)

/** What of the ribbon is this block’s: it shows at certain times only. */
const { ribbon } = useRibbon()
const part = computed(() => (props.block.when ? ribbon.value?.blocks[props.block.key] : undefined))
const showingWords = computed(() =>
  part.value && props.block.when ? stateWords(part.value, props.block.when.zone) : '',
)
/** What keeps it from some visitors, or from all for now, and what a heading keeps behind a press. */
const chips = computed(() => {
  const { to, heading, gate } = props.block
  const several = to?.sources.length ?? 0
  const of = to && (to.rule === 'only' ? t('arrange.fromSources', several) : t('arrange.butSources', several))
  const first = heading?.first ? t('arrange.showsFirst', { n: heading.first }) : ''
  const folds = heading?.folds ? t('arrange.folds') : ''
  const asks = gate ? t(gate.kind === 'passcode' ? 'arrange.gatePasscode' : 'arrange.gateNotice') : ''
  return [part.value?.state === 'in force' ? '' : showingWords.value, of, asks, folds, first].filter(Boolean)
})
const away = computed(() =>
  props.seen === undefined
    ? props.aside || !props.block.shown || (part.value && part.value.state !== 'in force')
    : !props.seen,
)

async function rename() {
  if (!canRename(props.block)) return
  draft.value = title.value
  renaming.value = true
  await nextTick()
  input.value?.select()
}

onMounted(() => {
  if (props.fresh) void rename()
})

// What the site is called arrives a moment later; what is being typed stays.
watch(title, async (now, before) => {
  if (!renaming.value || draft.value !== before) return
  draft.value = now
  await nextTick()
  input.value?.select()
})

function finish(keep: boolean, left = false) {
  if (!renaming.value) return
  renaming.value = false
  if (keep && draft.value.trim() !== title.value) {
    page.changeBlock(t('arrange.rename', { title: title.value }), props.block.key, (block) =>
      setTitle(block, draft.value.trim()),
    )
  }
  // A field that was left for another place does not call the focus back.
  if (!left) row.value?.focus()
}

function onKey(event: KeyboardEvent) {
  if (event.target !== row.value) return
  if (event.key === 'F2' || event.key === 'r') {
    event.preventDefault()
    void rename()
  }
}
</script>

<template>
  <li
    ref="row"
    class="row"
    :class="{ hidden: away, open }"
    :data-key="block.key"
    :tabindex="tabStop ? 0 : -1"
    :aria-label="label"
    @keydown="onKey"
  >
    <div class="gutter">
      <span class="grip" aria-hidden="true"><GripVertical /></span>
      <span class="place">{{ place || '–' }}</span>
      <ToolButton
        :icon="block.shown ? Eye : EyeOff"
        :label="`${block.shown ? $t('arrange.hide') : $t('arrange.show')} “${title}”`"
        tabindex="-1"
        :aria-pressed="!block.shown"
        @click="emit('toggle')"
      />
      <ToolButton
        v-if="block.button || block.offer"
        class="swap"
        :icon="CornerDownRight"
        :label="$t('arrange.swapLead', { title })"
        tabindex="-1"
        @click="emit('swap')"
      />
      <WhenRibbon
        v-if="ribbon && part"
        v-tooltip.right="showingWords"
        class="when"
        :ribbon="ribbon"
        :part="part"
        :says="showingWords"
      />
    </div>
    <div class="piece" @click="emit('open')" @dblclick="rename">
      <PagePiece :html="strip.blocks[block.key] ?? ''" :strip="strip" />
      <span v-if="chips.length" class="chips"
        ><span v-for="chip in chips" :key="chip">{{ chip }}</span></span
      >
      <span
        v-if="titleLines > 1"
        v-tooltip.right="$t('arrange.theTitleTakesLines', { lines: counted(titleLines, 'line') })"
        class="wraps"
        ><span class="visually-hidden">{{
          $t('arrange.itsTitleTakes', { lines: counted(titleLines, 'line') })
        }}</span
        ><span aria-hidden="true">{{ counted(titleLines, 'line') }}</span></span
      >
      <input
        v-if="renaming"
        ref="input"
        v-model="draft"
        class="rename"
        data-opened
        :aria-label="$t('common.title')"
        maxlength="120"
        @click.stop
        @dblclick.stop
        @keydown.enter.stop="finish(true)"
        @keydown.esc.stop="finish(false)"
        @keydown.stop
        @blur="finish(true, true)"
      />
    </div>
    <RowFigures
      v-if="!kindOf(block)?.still"
      :figures="figures"
      :lanes="lanes"
      :most="most"
      :widest-rate="widestRate"
      :enough="enough"
      :today="today"
      :may-be-low="block.button?.plain || block.offer?.plain"
    />
  </li>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: var(--gutter) var(--strip) minmax(0, 1fr);
  align-items: stretch;
  scroll-margin-top: 70px; /* the names of the lanes */
}
.row:focus-visible {
  outline: none;
}
.row:focus-visible .piece,
.row.open .piece {
  box-shadow: inset 0 0 0 2px var(--accent);
}
.gutter {
  position: relative;
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
/* With a style for being pressed, browsers give it the touch and not the button beside it. */
.grip:active {
  color: var(--accent);
  cursor: grabbing;
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
/* On a wide screen the whole editor is as near. */
.gutter .swap {
  display: none;
}
.when {
  position: absolute;
  left: 4px;
  bottom: 2px;
  width: calc(100% - 14px);
}
.piece {
  position: relative;
  padding: 6px 20px;
  cursor: pointer;
}
.hidden .fragment {
  opacity: 0.4;
  filter: grayscale(0.6);
}
.chips {
  position: absolute;
  left: 2px;
  top: -1px;
  display: flex;
  gap: 3px;
}
.wraps {
  position: absolute;
  right: 2px;
  top: -1px;
}
.wraps,
.chips > * {
  padding: 0 6px;
  border-radius: 3px;
  background: var(--amber-soft);
  color: var(--amber);
  font-size: 0.72rem;
  line-height: 16px;
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
.sortable-ghost {
  opacity: 0.4;
}
@media (max-width: 720px) {
  .row {
    grid-template-columns: var(--gutter) minmax(0, 1fr) 54px;
  }
  .gutter {
    display: grid;
    grid-template-columns: 26px 24px;
    align-content: center;
    align-self: stretch;
    padding: 0;
    gap: 0;
  }
  /* As tall as the row, for a finger. */
  .grip {
    grid-row: span 3;
    align-self: stretch;
    place-content: center;
    padding: 0;
  }
  .gutter .swap {
    display: grid;
  }
  .gutter .tool {
    width: 24px;
    height: 26px;
    margin: 0;
  }
  .place {
    min-width: 0;
    font-size: 0.8rem;
    text-align: center;
  }
  .piece {
    padding: calc(6px * var(--zoom)) calc(20px * var(--zoom));
  }
  .rename {
    inset: 4px 12px;
    width: calc(100% - 24px);
  }
}
</style>
