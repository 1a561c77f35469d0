<script setup lang="ts">
import Skeleton from 'primevue/skeleton'
import { useToast } from 'primevue/usetoast'
import { useNow } from '@vueuse/core'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { Block } from '@/api/client'
import FirstHour from '@/firsthour/FirstHour.vue'
import type { KindEntry } from '@/kinds/registry'
import DeletedNotice from '@/pages/DeletedNotice.vue'
import RestNotice from '@/pages/RestNotice.vue'
import TakenDownNotice from '@/pages/TakenDownNotice.vue'
import { usePageStore } from '@/page/pageStore'
import TitleLines from '@/page/TitleLines.vue'
import ArrangeTools from './ArrangeTools.vue'
import BlockRow from './BlockRow.vue'
import FixedRow from './FixedRow.vue'
import HeadRow from './HeadRow.vue'
import IconsRow from './IconsRow.vue'
import KeyHelp from './KeyHelp.vue'
import OpenEditor from './OpenEditor.vue'
import RowFigures from './RowFigures.vue'
import SeenAs from './SeenAs.vue'
import OffNotice from '@/readings/OffNotice.vue'
import TakeoverNotices from './TakeoverNotices.vue'
import { useInAddress } from '@/shell/useInAddress'
import WhoIsHere from '@/team/WhoIsHere.vue'
import { useArrangeKeys } from './useArrangeKeys'
import { useBlocks } from './useBlocks'
import { useLanes } from './useLanes'
import { useOpenRow } from './useOpenRow'
import { useRowDrag } from './useRowDrag'
import { useSeen } from './useSeen'

const route = useRoute()
const page = usePageStore()
const pageId = () => String(route.params.page)
const range = useInAddress('range', '28d')
const { readings, lanes, figuresOf } = useLanes(pageId, range)
const toast = useToast()
const { blocks, places, move, toggle, remove, duplicate, add } = useBlocks((summary) =>
  toast.add({ severity: 'warn', summary, life: 10_000 }),
)

const seen = useSeen(pageId)
/** Whether the page is looked at as of another moment, or from a source. */
const seeing = ref(seen.at.value !== '' || seen.from.value !== '')
function seeNow() {
  seeing.value = false
  seen.back()
}

const open = useOpenRow()
/** On how many lines titles stand on a small phone, by the keys of their blocks. */
const titleLines = ref(new Map<string, number>())
/** The block that was just added on a phone. */
const fresh = ref<string>()
const list = useTemplateRef<HTMLElement>('list')
const workArea = useTemplateRef<HTMLElement>('workArea')

const now = useNow({ interval: 10_000 })
/** The block that stands alone now, for everybody. */
const alone = computed(
  () =>
    page.state?.takeovers.findLast(({ solo, on, shows, to, until }) => {
      const isOver = !!until && Date.parse(until) <= now.value.getTime()
      return solo && on && shows && !to && !isOver
    })?.solo,
)

/** How much smaller than a phone the strip is drawn, where there is no room for one. */
const zoom = ref(1)

const strip = computed(() => page.state?.strip)
const iconsAbove = computed(() => page.document?.icons.place !== 'below')
/** Colours of the page for what stands in the strip and is not of the page. */
const pageColours = computed(() => ({ '--page-soft': page.document?.look.soft }))
const onPhone = () => matchMedia('(max-width: 720px)').matches

// On a phone the editor comes up from below; the row it is about is shown above it.
watch(open, async (row) => {
  if (!row || !onPhone()) return
  await nextTick()
  workArea.value
    ?.querySelector(`[data-key="${row}"], [data-row="${row}"]`)
    ?.scrollIntoView({ block: 'start' })
})

/** Closes the editor and goes back to the row it was of, unless the focus is somewhere else already. */
async function close() {
  const of = open.value
  open.value = undefined
  await nextTick()
  if (document.activeElement !== document.body) return
  if (blocks.value.some(({ key }) => key === of)) keys.focusRow(of)
  else workArea.value?.querySelector<HTMLElement>(`[data-row="${of}"] .press`)?.focus()
}

function drop(key: string) {
  if (open.value === key) open.value = undefined
  remove(key)
}

/** Opens a row where it leads, ready to be pasted over. */
async function swap(key: string) {
  open.value = key
  await nextTick()
  const address = document.querySelector<HTMLInputElement>('.drawer input[inputmode="url"]')
  address?.focus()
  address?.select()
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
  const added = add(kind, keys.current.value)
  if (!added) return
  const { key } = added
  await nextTick()
  keys.current.value = key
  open.value = key
}

useRowDrag(list, blocks, move)

const keys = useArrangeKeys({
  list, blocks, move, toggle,
  remove: drop,
  duplicate: copy,
  edit: (key) => (open.value = key),
}) // prettier-ignore

async function added(block: Block) {
  if (onPhone()) fresh.value = block.key
  await nextTick()
  if (!onPhone()) return keys.focusRow(block.key)
  list.value?.querySelector(`[data-key="${block.key}"]`)?.scrollIntoView({ block: 'center' })
}
</script>

<template>
  <div class="arrange" :class="{ editing: open }">
    <WhoIsHere :page="pageId()" />
    <ArrangeTools
      v-model:range="range"
      :seeing="seeing"
      :view="readings"
      @pasted="added"
      @add="addKind"
      @see="seeing ? seeNow() : (seeing = true)"
    />
    <SeenAs
      v-if="seeing && page.loaded"
      v-model:at="seen.at.value"
      v-model:from="seen.from.value"
      :page-id="pageId()"
      :instead="seen.instead.value"
      @close="seeNow"
    />

    <FirstHour v-if="page.loaded" :page-id="pageId()" />
    <TakenDownNotice v-if="page.loaded" />
    <div v-if="page.loaded && (page.state?.resting || page.state?.deleteAt)" class="standing-notices">
      <DeletedNotice v-if="page.state.deleteAt" />
      <RestNotice v-else />
    </div>
    <TakeoverNotices v-if="page.loaded" />
    <OffNotice v-if="page.loaded" :page-id="String(route.params.page)" />
    <div v-if="!page.loaded" class="loading" aria-busy="true">
      <Skeleton v-for="n in 6" :key="n" height="60px" width="360px" />
    </div>
    <div
      v-else-if="strip"
      ref="workArea"
      class="work-area"
      :style="[{ '--lanes': lanes.length, '--zoom': zoom }, pageColours]"
    >
      <TitleLines :strip="strip" :blocks="blocks" @measured="titleLines = $event" />
      <div class="stage">
        <HeadRow
          :strip="strip"
          :open="open"
          :lanes="lanes"
          :view="readings"
          @open="open = $event"
          @zoom="zoom = $event"
        />
        <IconsRow v-if="iconsAbove" :strip="strip" :open="open === 'icons'" @open="open = 'icons'"
          ><RowFigures v-if="strip.icons" v-bind="figuresOf('icons')"
        /></IconsRow>
        <ol ref="list" class="rows" :aria-label="$t('arrange.blocksOfThePage')">
          <BlockRow
            v-for="(block, index) in blocks"
            :key="block.key"
            :block="block"
            :place="places.get(block.key) ?? 0"
            :strip="strip"
            v-bind="figuresOf(block.key)"
            :open="open === block.key"
            :fresh="fresh === block.key"
            :seen="seen.keys.value?.includes(block.key)"
            :aside="!!alone && alone !== block.key"
            :title-lines="titleLines.get(block.key)"
            :tab-stop="keys.isTabStop(block.key, index)"
            @keydown="keys.onRowKey($event, block.key)"
            @focusin="keys.current.value = block.key"
            @open="open = block.key"
            @toggle="toggle(block.key)"
            @swap="swap(block.key)"
          />
        </ol>
        <div v-if="blocks.length === 0" class="row first">
          <p class="hollow">
            {{ $t('arrange.noButtonsYetPaste') }}
          </p>
        </div>
        <IconsRow v-if="!iconsAbove" :strip="strip" :open="open === 'icons'" @open="open = 'icons'"
          ><RowFigures v-if="strip.icons" v-bind="figuresOf('icons')"
        /></IconsRow>
        <FixedRow
          name="footer"
          :label="$t('arrange.editTheEnd')"
          :hollow="$t('arrange.aWordAtTheEnd')"
          :html="strip.footer"
          :strip="strip"
          :open="open === 'footer'"
          @open="open = 'footer'"
          ><RowFigures v-if="page.document?.footer.links.length" v-bind="figuresOf('footer')"
        /></FixedRow>
        <p class="floor" aria-hidden="true"></p>
      </div>
      <KeyHelp />
      <p class="begin small">
        <RouterLink class="again" :to="{ name: 'starters', params: { page: pageId() } }">{{
          $t('arrange.beginAgainFromAReady')
        }}</RouterLink>
      </p>
    </div>

    <OpenEditor
      :open="open"
      :blocks="blocks"
      :lanes="lanes"
      :place="(key) => places.get(key) ?? 0"
      :figures-of="figuresOf"
      @close="close"
      @remove="drop"
      @toggle="toggle"
      @duplicate="copy"
      @move="move"
    />
  </div>
</template>

<style scoped>
.standing-notices {
  margin: 0 0 14px var(--gutter);
  max-width: var(--strip);
}
.arrange {
  --gutter: 92px;
  --strip: 360px;
  padding: 16px 28px 80px;
  position: relative;
}
.loading {
  display: grid;
  gap: 12px;
  padding-left: var(--gutter);
}
.work-area {
  --columns: repeat(var(--lanes), minmax(55px, 84px)) 62px minmax(138px, 190px);
  position: relative;
  min-width: 0;
}
.stage {
  position: relative;
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
.begin {
  margin: 18px 0 0 var(--gutter);
}
@media (max-width: 720px) {
  .arrange {
    --gutter: 50px;
    --strip: minmax(0, 1fr);
    padding: 10px 10px 190px 4px;
  }
  /* So that the last row, too, can be shown above its editor. */
  .arrange.editing {
    padding-bottom: 66dvh;
  }
  /* What has the focus comes to lie above what is fixed at the bottom. */
  :global(html:has(.arrange)) {
    scroll-padding-bottom: 178px;
  }
  .arrange :deep([data-key]),
  .arrange :deep([data-row]) {
    scroll-margin-top: 0;
  }
  .row.first .hollow {
    width: calc(100% - 54px - 24px);
    margin: 6px 12px;
  }
  .floor {
    width: calc(100% - var(--gutter) - 54px);
  }
}
</style>
