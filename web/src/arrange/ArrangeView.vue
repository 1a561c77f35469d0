<script setup lang="ts">
import { Redo2, Undo2 } from '@lucide/vue'
import { useQuery } from '@tanstack/vue-query'
import { useElementSize } from '@vueuse/core'
import Select from 'primevue/select'
import Skeleton from 'primevue/skeleton'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { useDraggable } from 'vue-draggable-plus'
import { useRoute } from 'vue-router'
import type { Block, ReadingsView } from '@/api/client'
import { readingsQuery } from '@/api/queries'
import { copyOf, newBlock, type KindEntry } from '@/kinds/registry'
import { titleOf as blockTitle } from '@/page/blockWords'
import PagePiece from '@/page/PagePiece.vue'
import { usePageStore } from '@/page/pageStore'
import { RANGES } from '@/readings/ranges'
import { lanes as lanesOf } from '@/sourceColours'
import AddMenu from './AddMenu.vue'
import BlockDrawer from './BlockDrawer.vue'
import BlockRow from './BlockRow.vue'
import FixedRow from './FixedRow.vue'
import FooterDrawer from './FooterDrawer.vue'
import HeaderDrawer from './HeaderDrawer.vue'
import IconsDrawer from './IconsDrawer.vue'
import PasteLine from './PasteLine.vue'
import ReadingSentence from './ReadingSentence.vue'
import RowFigures from './RowFigures.vue'
import { useArrangeKeys } from './useArrangeKeys'

const route = useRoute()
const page = usePageStore()
const range = ref('28d')
const { data: readings } = useQuery(readingsQuery(() => String(route.params.page), range))

/** The row whose editor is open: a block's key, or "header", "icons" or "footer". */
const open = ref<string>()
const list = useTemplateRef<HTMLElement>('list')
const top = useTemplateRef<HTMLElement>('top')

/** The width of a small phone, for which the strip is drawn. */
const PHONE = 360
const { width: stripWidth } = useElementSize(top, undefined, { box: 'border-box' })
const zoom = computed(() => (stripWidth.value > 0 ? Math.min(1, stripWidth.value / PHONE) : 1))

const blocks = computed<Block[]>(() => page.document?.blocks ?? [])
const strip = computed(() => page.state?.strip)
const iconsAbove = computed(() => page.document?.icons.place !== 'below')
/** Colours of the page for what stands in the strip and is not of the page. */
const pageColours = computed(() => ({ '--page-text': page.document?.look.text, '--page-soft': page.document?.look.soft })) // prettier-ignore
const lanes = computed(() =>
  lanesOf(readings.value?.sources ?? [], (id) => (readings.value?.bySource[id]?.visits ?? 0) > 0),
)
const figures = computed(() => new Map((readings.value?.blocks ?? []).map((row) => [row.block, row])))
const most = computed(() =>
  Math.max(
    1,
    ...(readings.value?.blocks ?? []).flatMap((row) =>
      Object.values(row.bySource).map((cell) => cell.clicks),
    ),
  ),
)
const places = computed(() => {
  let place = 0
  return new Map(blocks.value.map((block) => [block.key, block.shown ? ++place : 0]))
})
const openBlock = computed(() => blocks.value.find((block) => block.key === open.value))
const widestRate = computed(() =>
  Math.max(
    0.02,
    ...(readings.value?.blocks ?? [])
      .filter((row) => row.total.rate.of > 0)
      .map((row) => row.total.rate.interval.high),
  ),
)

const hasHeader = computed(() => {
  const header = page.document?.header
  return !!(header?.name || header?.line || header?.about || header?.picture || header?.cover)
})

/** What the lanes of a row are drawn from. */
function figuresOf(key: string) {
  return {
    figures: figures.value.get(key),
    lanes: lanes.value,
    most: most.value,
    widestRate: widestRate.value,
    enough: readings.value?.missing === 0,
  }
}

function visits(view: ReadingsView | undefined, lane: string) {
  return view?.bySource[lane]?.visits ?? 0
}

function move(key: string, to: number) {
  const from = blocks.value.findIndex((block) => block.key === key)
  if (from < 0 || to < 0 || to >= blocks.value.length || from === to) return
  page.change(`Move “${titleOf(key)}”`, (draft) => {
    const [moved] = draft.blocks.splice(from, 1)
    if (moved) draft.blocks.splice(to, 0, moved)
  })
}

function titleOf(key: string) {
  return blockTitle(blocks.value.find((block) => block.key === key))
}

/** Puts a copy of a block below it and goes on with the copy. */
async function duplicate(key: string) {
  const at = blocks.value.findIndex((block) => block.key === key)
  const block = blocks.value[at]
  if (!block) return
  const copy = copyOf(block)
  page.change(`Duplicate “${titleOf(key)}”`, (draft) => void draft.blocks.splice(at + 1, 0, copy))
  if (open.value === key) open.value = copy.key
  await added(copy)
}

/** Adds a block that cannot be pasted, below the chosen row, and opens it. */
async function addKind(kind: KindEntry) {
  const block = newBlock(kind)
  const after = blocks.value.findIndex((each) => each.key === keys.current.value)
  page.change(`Add a ${kind.label.toLowerCase()}`, (draft) => {
    draft.blocks.splice(after < 0 ? draft.blocks.length : after + 1, 0, block)
  })
  await nextTick()
  keys.current.value = block.key
  open.value = block.key
}

/** What was deleted last, as long as Undo would bring it back. */
const deleted = ref<string>()

function remove(key: string) {
  if (open.value === key) open.value = undefined
  const name = `Delete “${titleOf(key)}”`
  page.change(name, (draft) => {
    draft.blocks = draft.blocks.filter((block) => block.key !== key)
  })
  deleted.value = name
}

function toggle(key: string) {
  const shown = blocks.value.find((block) => block.key === key)?.shown
  page.changeBlock(
    `${shown ? 'Hide' : 'Show'} “${titleOf(key)}”`,
    key,
    (block) => (block.shown = !block.shown),
  )
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
  list, blocks, move, toggle, remove, duplicate,
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
      <div class="history">
        <button
          v-tooltip.bottom="page.undoable ? `Undo: ${page.undoable}` : 'Nothing to undo'"
          class="tool"
          type="button"
          aria-label="Undo"
          :disabled="!page.undoable"
          @click="page.undo"
        >
          <Undo2 aria-hidden="true" />
        </button>
        <button
          v-tooltip.bottom="page.redoable ? `Redo: ${page.redoable}` : 'Nothing to redo'"
          class="tool"
          type="button"
          aria-label="Redo"
          :disabled="!page.redoable"
          @click="page.redo"
        >
          <Redo2 aria-hidden="true" />
        </button>
      </div>
    </div>

    <div v-if="page.newer" class="notice banner" role="alert">
      <span>{{ page.problem }}</span>
      <button class="link" type="button" @click="page.takeNewer">Take the newer page</button>
      <button class="link" type="button" @click="page.keepMine">Keep what is on my screen</button>
    </div>
    <div
      v-else-if="page.saving === 'refused' || page.saving === 'waiting'"
      class="notice banner"
      role="alert"
    >
      <span>{{ page.problem }}</span>
      <button v-if="page.saving === 'refused'" class="link" type="button" @click="page.undo">
        Undo the last change
      </button>
    </div>

    <p v-if="deleted && page.undoable === deleted" class="notice plain banner" role="status">
      <span>{{ deleted.replace('Delete ', '') }} is deleted. Its figures are kept.</span>
      <button class="link" type="button" @click="page.undo">Undo</button>
    </p>

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
          <div class="lane-heads">
            <div v-for="lane in lanes" :key="lane.id" class="lane-head" :style="{ '--colour': lane.colour }">
              <span class="name">{{ lane.name }}</span>
              <span class="visits">{{ visits(readings, lane.id).toLocaleString('en') }}</span>
            </div>
            <div class="lane-head total">
              <span class="name">Clicks</span
              ><span class="visits">{{ (readings?.total.clicks ?? 0).toLocaleString('en') }}</span>
            </div>
            <div class="lane-head rate"><span class="name">Rate, of visits shown</span></div>
          </div>
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
        <RouterLink :to="{ name: 'starters', params: { page: String(route.params.page) } }"
          >Begin again from a ready-made page</RouterLink
        >
      </p>
    </div>

    <HeaderDrawer v-if="open === 'header'" @close="open = undefined" />
    <IconsDrawer
      v-else-if="open === 'icons'"
      :figures="figures.get('icons')"
      :lanes="lanes"
      @close="open = undefined"
    />
    <FooterDrawer v-else-if="open === 'footer'" @close="open = undefined" />
    <BlockDrawer
      v-else-if="openBlock"
      :key="openBlock.key"
      :block="openBlock"
      :figures="figures.get(openBlock.key)"
      :lanes="lanes"
      :place="places.get(openBlock.key) ?? 0"
      :first="blocks[0]?.key === openBlock.key"
      :last="blocks.at(-1)?.key === openBlock.key"
      @close="open = undefined"
      @remove="remove(openBlock.key)"
      @toggle="toggle(openBlock.key)"
      @duplicate="duplicate(openBlock.key)"
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
  display: flex;
  gap: 2px;
}
.history .tool:disabled {
  opacity: 0.35;
  cursor: default;
  background: none;
}
.lane-tools {
  grid-column: 3;
  grid-row: 1;
  display: flex;
  align-items: center;
  gap: 12px;
  padding-left: 20px;
}
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
.loading {
  display: grid;
  gap: 12px;
  padding-left: var(--gutter);
}
.sheet {
  --columns: repeat(var(--lanes), minmax(58px, 84px)) 62px minmax(126px, 190px);
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
.lane-heads {
  grid-column: 3;
  grid-row: 1;
  align-self: end;
  display: grid;
  grid-template-columns: var(--columns);
  align-items: end;
  padding: 0 0 8px 20px;
  position: sticky;
  top: var(--top);
}
.lane-head {
  display: grid;
  gap: 4px;
  padding: 0 3px;
  text-align: right;
  font-size: 0.75rem;
  line-height: 1.2;
  overflow-wrap: break-word;
}
.lane-head .name {
  font-weight: 600;
}
.lane-head .visits {
  color: var(--ink-soft);
  border-top: 4px solid var(--colour, transparent);
  padding-top: 4px;
}
.lane-head.rate {
  text-align: left;
  padding-left: 16px;
  align-self: end;
  padding-bottom: 21px;
}
@media (max-width: 1080px) {
  .lane-heads {
    grid-template-columns: 62px minmax(90px, 1fr);
  }
  .lane-head:not(.total, .rate) {
    display: none;
  }
}
@media (max-width: 720px) {
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
  .history {
    flex-direction: column;
  }
  .row.head {
    grid-template-columns: var(--gutter) minmax(0, 1fr) 54px;
  }
  .lane-heads {
    grid-template-columns: 54px;
    padding: 0 0 8px;
  }
  .lane-head.rate,
  .sentence {
    display: none;
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
  .banner {
    margin-left: 0;
  }
}
</style>
