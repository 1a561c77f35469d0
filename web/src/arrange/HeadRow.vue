<script setup lang="ts">
import { CalendarClock } from '@lucide/vue'
import { useElementBounding, useElementSize } from '@vueuse/core'
import { computed, useTemplateRef, watch, type ComponentPublicInstance } from 'vue'
import type { ReadingsView, Strip } from '@/api/client'
import ToolButton from '@/fields/ToolButton.vue'
import PagePiece from '@/page/PagePiece.vue'
import { usePageStore } from '@/page/pageStore'
import type { Lane } from '@/sourceColours'
import FixedPiece from './FixedPiece.vue'
import LaneHeads from './LaneHeads.vue'
import ReadingSentence from './ReadingSentence.vue'
import { stateWords } from './stateWords'
import { useRibbon } from './useRibbon'
import WhenRibbon from './WhenRibbon.vue'

/**
 * The first row: the page's header, today's figures in a sentence, and the names of the
 * lanes, which stay in sight when the row has been scrolled away.
 */
defineProps<{ strip: Strip; open?: string; lanes: Lane[]; view?: ReadingsView }>()
const emit = defineEmits<{ open: [row: 'header' | 'page']; zoom: [zoom: number] }>()
const page = usePageStore()

/** How far from the top the names of the lanes stand clear of the line above, in pixels. */
const HEADS_FROM = 90
/** The width of a small phone, for which the strip is drawn. */
const PHONE = 360

const piece = useTemplateRef<ComponentPublicInstance>('piece')
const { width } = useElementSize(piece, undefined, { box: 'border-box' })
watch(width, (now) => now > 0 && emit('zoom', Math.min(1, now / PHONE)))

const heads = useTemplateRef<HTMLElement>('heads')
const { bottom } = useElementBounding(heads)
const scrolledAway = computed(() => heads.value !== null && bottom.value < HEADS_FROM)

const { ribbon } = useRibbon()
/** How the page stands that shows at certain times only. */
const timesWords = computed(() => {
  const [part, when] = [ribbon.value?.page, page.document?.when]
  return part && when ? stateWords(part, when.zone) : ''
})

const named = computed(() => !!page.document?.header.name.trim())
</script>

<template>
  <div class="pinned" :class="{ shown: scrolledAway }" aria-hidden="true">
    <LaneHeads :lanes="lanes" :view="view" />
  </div>
  <PagePiece class="ground" :html="strip.ground" :strip="strip" fill />
  <div class="row head">
    <div class="gutter" data-row="page">
      <ToolButton
        v-tooltip.right="$t('arrange.wholePageTip')"
        class="press"
        :icon="CalendarClock"
        :label="$t('arrange.wholePage')"
        :aria-expanded="open === 'page'"
        @click="emit('open', 'page')"
      />
      <WhenRibbon
        v-if="ribbon?.page && page.document?.when"
        v-tooltip.right="timesWords"
        class="when"
        :ribbon="ribbon"
        :part="ribbon.page"
        :says="timesWords"
      />
    </div>
    <FixedPiece
      ref="piece"
      class="top"
      name="header"
      :label="$t('arrange.editNameLineAndPicture')"
      :open="open === 'header'"
      @open="emit('open', 'header')"
    >
      <PagePiece :html="strip.header" :strip="strip" />
      <p v-if="!named" class="hollow">{{ $t('arrange.noNameYet') }}</p>
    </FixedPiece>
    <ReadingSentence v-if="view" class="sentence" :view="view" :lanes="lanes" />
    <div ref="heads" class="heads"><LaneHeads :lanes="lanes" :view="view" /></div>
  </div>
</template>

<style scoped>
.heads {
  grid-column: 3;
  grid-row: 1;
  align-self: end;
}
.pinned {
  position: sticky;
  top: var(--crown);
  z-index: 6;
  height: 0;
  margin-left: calc(var(--gutter) + var(--strip));
  visibility: hidden;
}
.pinned.shown {
  visibility: visible;
}
.pinned > * {
  padding-top: 8px;
  background: var(--ground);
  border-bottom: 1px solid var(--line-strong);
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
.gutter {
  position: relative;
  padding: 8px 10px 0 0;
  text-align: right;
}
.when {
  position: absolute;
  left: 4px;
  bottom: 2px;
  width: calc(100% - 14px);
}
.top {
  padding-top: 40px;
  padding-bottom: 0;
  overflow: hidden;
  border-radius: 14px 14px 0 0;
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
.sentence {
  grid-column: 3;
  grid-row: 1;
  align-self: start;
  padding: 18px 20px;
}
@media (max-width: 720px) {
  .sentence {
    display: none;
  }
  .row.head {
    grid-template-columns: var(--gutter) minmax(0, 1fr) 54px;
  }
  .ground {
    width: calc(100% - var(--gutter) - 54px);
  }
  .pinned {
    margin-left: calc(100% - 54px);
  }
  .top {
    padding-top: calc(40px * var(--zoom));
    padding-bottom: 0;
  }
}
</style>
