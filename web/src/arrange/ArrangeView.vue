<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import Select from 'primevue/select'
import Skeleton from 'primevue/skeleton'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { useDraggable } from 'vue-draggable-plus'
import { useRoute } from 'vue-router'
import type { Block } from '@/api/client'
import type { KindEntry } from '@/kinds/registry'
import PagePiece from '@/page/PagePiece.vue'
import { usePageStore } from '@/page/pageStore'
import { RANGES } from '@/readings/ranges'
import AddMenu from './AddMenu.vue'
import BlockDrawer from './BlockDrawer.vue'
import BlockRow from './BlockRow.vue'
import FixedRow from './FixedRow.vue'
import FooterDrawer from './FooterDrawer.vue'
import HeaderDrawer from './HeaderDrawer.vue'
import IconsDrawer from './IconsDrawer.vue'
import LaneHeads from './LaneHeads.vue'
import PasteLine from './PasteLine.vue'
import ReadingSentence from './ReadingSentence.vue'
import RowFigures from './RowFigures.vue'
import SavingNotices from './SavingNotices.vue'
import UndoRedo from './UndoRedo.vue'
import { useArrangeKeys } from './useArrangeKeys'
import { useBlocks } from './useBlocks'
import { useLanes } from './useLanes'

const route = useRoute()
const page = usePageStore()
const pageId = () => String(route.params.page)
const range = ref('28d')
const { readings, lanes, figuresOf } = useLanes(pageId, range)
const { blocks, places, deleted, find, move, toggle, remove, duplicate, add } = useBlocks()

/** The row whose editor is open: a block's key, or "header", "icons" or "footer". */
const open = ref<string>()
const openBlock = computed(() => find(open.value))
const list = useTemplateRef<HTMLElement>('list')
const top = useTemplateRef<HTMLElement>('top')

/** The width of a small phone, for which the strip is drawn. */
const PHONE = 360
const { width: stripWidth } = useElementSize(top, undefined, { box: 'border-box' })
const zoom = computed(() => (stripWidth.value > 0 ? Math.min(1, stripWidth.value / PHONE) : 1))

const strip = computed(() => page.state?.strip)
const iconsAbove = computed(() => page.document?.icons.place !== 'below')
/** Colours of the page for what stands in the strip and is not of the page. */
const pageColours = computed(() => ({ '--page-soft': page.document?.look.soft }))
const hasHeader = computed(() => {
  const header = page.document?.header
  return !!(header?.name || header?.line || header?.about || header?.picture || header?.cover)
})

function drop(key: string) {
  if (open.value === key) open.value = undefined
  remove(key)
}

/** Copies a block and goes on with the copy. */
function copy(key: string) {
  const made = duplicate(key)
  if (!made) return
  if (open.value === key) open.value = made.key
  void added(made)
}

/** Adds a block below the chosen row and opens it. */
async function addKind(kind: KindEntry) {
  const { key } = add(kind, keys.current.value)
  await nextTick()
  keys.current.value = key
  open.value = key
}

const drag = useDraggable(list, blocks, {
  immediate: false,
  handle: '.grip',
  animation: 150,
  customUpdate: ({ item, oldIndex = 0, newIndex = 0 }) => {
    // The list follows the document: put the row back and let it be drawn anew.
    const siblings = [...(list.value?.children ?? [])].filter((child) => child !== item)
    list.value?.insertBefore(item, siblings[oldIndex] ?? null)
    const key = blocks.value[oldIndex]?.key
    if (key) move(key, newIndex)
  },
})

// The list is there once the page is.
watch(list, (element) => element && drag.start(element))

const keys = useArrangeKeys({
  list, blocks, move, toggle,
  remove: drop,
  duplicate: copy,
  edit: (key) => (open.value = key),
  undo: page.undo,
  redo: page.redo,
}) // prettier-ignore

async function added(block: Block) {
  await nextTick()
  keys.focusRow(block.key)
}
</script>

<template>
  <div class="arrange">
    <div class="bench">
      <div class="paste-slot"><PasteLine @added="added" /></div>
      <div class="lane-tools">
        <h1 class="visually-hidden">Arrange</h1>
        <AddMenu @add="addKind" />
        <Select
          v-model="range"
          :options="RANGES"
          option-value="value"
          option-label="label"
          aria-label="Clicks in"
          size="small"
        />
      </div>
      <UndoRedo class="history" />
    </div>

    <SavingNotices :deleted="deleted" />

    <div v-if="!page.loaded" class="loading" aria-busy="true">
      <Skeleton v-for="n in 6" :key="n" height="60px" width="360px" />
    </div>
    <div v-else-if="strip" class="sheet" :style="[{ '--lanes': lanes.length, '--zoom': zoom }, pageColours]">
      <div class="stage">
        <PagePiece class="ground" :html="strip.ground" :strip="strip" fill />
        <div class="row head">
          <div class="gutter"><span class="visually-hidden">Header</span></div>
          <div ref="top" class="piece top" :class="{ open: open === 'header' }">
            <button
              class="press"
              type="button"
              aria-label="Edit name, line and picture"
              @click="open = 'header'"
            ></button>
            <PagePiece v-if="hasHeader" :html="strip.header" :strip="strip" />
            <p v-else class="hollow">Put your name, a line about yourself and a picture here</p>
          </div>
          <ReadingSentence v-if="readings" class="sentence" :view="readings" :lanes="lanes" />
          <LaneHeads class="heads" :lanes="lanes" :view="readings" />
        </div>
        <FixedRow
          v-if="iconsAbove"
          name="icons"
          label="Edit the profile icons"
          hollow="Profile icons"
          :html="strip.icons"
          :strip="strip"
          :open="open === 'icons'"
          @open="open = 'icons'"
          ><RowFigures v-if="strip.icons" v-bind="figuresOf('icons')"
        /></FixedRow>
        <ol ref="list" class="rows" aria-label="Blocks of the page">
          <BlockRow
            v-for="(block, index) in blocks"
            :key="block.key"
            :block="block"
            :place="places.get(block.key) ?? 0"
            :strip="strip"
            v-bind="figuresOf(block.key)"
            :open="open === block.key"
            :tab-stop="keys.isTabStop(block.key, index)"
            @keydown="keys.onRowKey($event, block.key)"
            @focusin="keys.current.value = block.key"
            @open="open = block.key"
            @toggle="toggle(block.key)"
          />
        </ol>
        <div v-if="blocks.length === 0" class="row first">
          <p class="hollow">
            No buttons yet. Paste an address into the line above, and the first one appears here.
          </p>
        </div>
        <FixedRow
          v-if="!iconsAbove"
          name="icons"
          label="Edit the profile icons"
          hollow="Profile icons"
          :html="strip.icons"
          :strip="strip"
          :open="open === 'icons'"
          @open="open = 'icons'"
          ><RowFigures v-if="strip.icons" v-bind="figuresOf('icons')"
        /></FixedRow>
        <FixedRow
          name="footer"
          label="Edit the end of the page"
          hollow="A word at the end, privacy, terms"
          :html="strip.footer"
          :strip="strip"
          :open="open === 'footer'"
          @open="open = 'footer'"
          ><RowFigures v-if="page.document?.footer.links.length" v-bind="figuresOf('footer')"
        /></FixedRow>
        <p class="floor" aria-hidden="true"></p>
      </div>
      <p class="keys small soft">
        <kbd>↑</kbd> <kbd>↓</kbd> choose a row · <kbd>Alt</kbd> with them moves it, with <kbd>Home</kbd>
        <kbd>End</kbd> to the top or bottom · <kbd>Enter</kbd> opens it · <kbd>F2</kbd> renames ·
        <kbd>D</kbd> duplicates · <kbd>H</kbd> hides · <kbd>Del</kbd> deletes · <kbd>Ctrl</kbd>
        <kbd>Z</kbd> undoes
      </p>
      <p class="keys small">
        <RouterLink class="again" :to="{ name: 'starters', params: { page: pageId() } }"
          >Begin again from a ready-made page</RouterLink
        >
      </p>
    </div>

    <HeaderDrawer v-if="open === 'header'" @close="open = undefined" />
    <IconsDrawer
      v-else-if="open === 'icons'"
      :figures="figuresOf('icons').figures"
      :lanes="lanes"
      @close="open = undefined"
    />
    <FooterDrawer v-else-if="open === 'footer'" @close="open = undefined" />
    <BlockDrawer
      v-else-if="openBlock"
      :key="openBlock.key"
      :block="openBlock"
      :figures="figuresOf(openBlock.key).figures"
      :lanes="lanes"
      :place="places.get(openBlock.key) ?? 0"
      :first="blocks[0]?.key === openBlock.key"
      :last="blocks.at(-1)?.key === openBlock.key"
      @close="open = undefined"
      @remove="drop(openBlock.key)"
      @toggle="toggle(openBlock.key)"
      @duplicate="copy(openBlock.key)"
      @top="move(openBlock.key, 0)"
      @bottom="move(openBlock.key, blocks.length - 1)"
    />
  </div>
</template>

<style scoped>
.arrange {
  --gutter: 92px;
  --strip: 360px;
  padding: 16px 28px 80px;
  position: relative;
}
.bench {
  display: grid;
  grid-template-columns: var(--gutter) var(--strip) minmax(0, 1fr);
  align-items: center;
  margin-bottom: 14px;
}
.paste-slot {
  grid-column: 2;
  grid-row: 1;
}
.history {
  grid-column: 1;
  grid-row: 1;
}
.lane-tools {
  grid-column: 3;
  grid-row: 1;
  display: flex;
  align-items: center;
  gap: 12px;
  padding-left: 20px;
}
.loading {
  display: grid;
  gap: 12px;
  padding-left: var(--gutter);
}
.sheet {
  --columns: repeat(var(--lanes), minmax(55px, 84px)) 62px minmax(126px, 190px);
  position: relative;
  min-width: 0;
}
.stage {
  position: relative;
}
.ground {
  position: absolute;
  top: 0;
  bottom: 0;
  left: var(--gutter);
  width: var(--strip);
  border: 1px solid var(--line-strong);
  border-radius: 14px;
  overflow: hidden;
  zoom: 1;
}
.row.head {
  display: grid;
  grid-template-columns: var(--gutter) var(--strip) minmax(0, 1fr);
  position: relative;
}
.piece.top {
  position: relative;
  padding: 40px 20px 0;
  overflow: hidden;
  border-radius: 14px 14px 0 0;
}
.piece.open,
.piece:hover {
  box-shadow: inset 0 0 0 2px var(--accent);
}
.press {
  position: absolute;
  inset: 0;
  border: 0;
  background: none;
  cursor: pointer;
  z-index: 1;
  border-radius: 12px 12px 0 0;
}
.hollow {
  color: var(--page-soft);
  border: 1px dashed currentColor;
  border-radius: 10px;
  padding: 18px;
  text-align: center;
  margin-bottom: 20px;
  text-wrap: balance;
}
.row.first {
  padding: 0 0 0 var(--gutter);
}
.row.first .hollow {
  position: relative;
  width: calc(var(--strip) - 40px);
  margin: 6px 20px;
}
.rows {
  list-style: none;
  margin: 0;
  padding: 0;
}
.floor {
  margin: 0 0 0 var(--gutter);
  width: var(--strip);
  height: 26px;
}
.sentence {
  grid-column: 3;
  grid-row: 1;
  align-self: start;
  padding: 18px 20px;
}
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
  .sentence {
    display: none;
  }
  .keys {
    display: none;
  }
  .arrange {
    --gutter: 40px;
    --strip: minmax(0, 1fr);
    padding: 10px 10px 90px 4px;
  }
  .bench {
    grid-template-columns: var(--gutter) minmax(0, 1fr);
    row-gap: 8px;
  }
  .lane-tools {
    grid-column: 1 / -1;
    grid-row: 2;
    padding-left: var(--gutter);
  }
  .row.head {
    grid-template-columns: var(--gutter) minmax(0, 1fr) 54px;
  }
  .ground {
    width: calc(100% - var(--gutter) - 54px);
  }
  .row.first .hollow {
    width: calc(100% - 54px - 24px);
    margin: 6px 12px;
  }
  .floor {
    width: calc(100% - var(--gutter) - 54px);
  }
  .piece.top {
    padding: calc(40px * var(--zoom)) calc(20px * var(--zoom)) 0;
  }
}
</style>
