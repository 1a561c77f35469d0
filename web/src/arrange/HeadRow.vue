<script setup lang="ts">
import { useElementBounding, useElementSize } from '@vueuse/core'
import { computed, useTemplateRef, watch, type ComponentPublicInstance } from 'vue'
import type { ReadingsView, Strip } from '@/api/client'
import PagePiece from '@/page/PagePiece.vue'
import { usePageStore } from '@/page/pageStore'
import type { Lane } from '@/sourceColours'
import FixedPiece from './FixedPiece.vue'
import LaneHeads from './LaneHeads.vue'
import ReadingSentence from './ReadingSentence.vue'

/**
 * The first row: the page's header, today's figures in a sentence, and the names of the
 * lanes, which stay in sight when the row has been scrolled away.
 */
defineProps<{ strip: Strip; open: boolean; lanes: Lane[]; view?: ReadingsView }>()
const emit = defineEmits<{ open: []; zoom: [zoom: number] }>()
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

const hasHeader = computed(() => {
  const header = page.document?.header
  return !!(header?.name || header?.line || header?.about || header?.picture || header?.cover)
})
</script>

<template>
  <div class="pinned" :class="{ shown: scrolledAway }" aria-hidden="true">
    <LaneHeads :lanes="lanes" :view="view" />
  </div>
  <PagePiece class="ground" :html="strip.ground" :strip="strip" fill />
  <div class="row head">
    <div class="gutter">
      <span class="visually-hidden">{{ $t('arrange.header') }}</span>
    </div>
    <FixedPiece
      ref="piece"
      class="top"
      name="header"
      :label="$t('arrange.editNameLineAndPicture')"
      :open="open"
      @open="emit('open')"
    >
      <PagePiece v-if="hasHeader" :html="strip.header" :strip="strip" />
      <p v-else class="hollow">{{ $t('arrange.putYourNameALine') }}</p>
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
