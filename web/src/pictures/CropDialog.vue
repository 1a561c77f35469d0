<script setup lang="ts">
import 'vue-advanced-cropper/dist/style.css'
import { FlipHorizontal2, FlipVertical2, RotateCwSquare, ZoomIn, ZoomOut } from '@lucide/vue'
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { ref, useTemplateRef } from 'vue'
import { CircleStencil, Cropper, RectangleStencil } from 'vue-advanced-cropper'
import { api, take, type Picture } from '@/api/client'

/** Cuts an uploaded picture in the shape it will be shown in: with zoom, turned and flipped. */
const props = defineProps<{
  original: string
  use: 'portrait' | 'small' | 'column' | 'ground'
  /** Width by height; free when left out. */
  aspect?: number
  round?: boolean
  /** The cut it has now. */
  cut?: Picture['cut']
}>()
const emit = defineEmits<{ cancel: []; done: [picture: Picture] }>()

const cropper = useTemplateRef<InstanceType<typeof Cropper>>('cropper')
const busy = ref(false)
/** The picture is there and has a frame on it. */
const framed = ref(false)
const wrong = ref('')

const before = props.cut
const start = before
  ? {
      'default-size': () => ({ width: before.width, height: before.height }),
      'default-position': () => ({ left: before.x, top: before.y }),
      'default-transforms': {
        rotate: before.turn,
        flip: { horizontal: before.flipX, vertical: before.flipY },
      },
    }
  : {}

function seeFrame({ coordinates }: { coordinates: { width: number } }) {
  framed.value = coordinates.width > 0
}

/** The cropper's pictures say nothing that the dialog does not; it leaves that open. */
function hush() {
  for (const picture of document.querySelectorAll<HTMLImageElement>('.cropper img')) picture.alt = ''
}

async function keep() {
  const result = cropper.value?.getResult()
  if (!result?.coordinates) return
  const { coordinates, image } = result
  const { rotate, flip } = image.transforms
  busy.value = true
  wrong.value = ''
  try {
    const cut = {
      x: Math.max(0, Math.round(coordinates.left)),
      y: Math.max(0, Math.round(coordinates.top)),
      width: Math.round(coordinates.width),
      height: Math.round(coordinates.height),
      turn: ((Math.round(rotate / 90) % 4) + 4) % 4 * 90,
      flipX: flip.horizontal,
      flipY: flip.vertical,
    } // prettier-ignore
    emit('done', await take(api.POST('/api/pictures/cut', { body: { original: props.original, use: props.use, cut } }))) // prettier-ignore
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <Dialog
    visible
    modal
    header="Cut the picture"
    :style="{ width: '34rem' }"
    :breakpoints="{ '720px': '94vw' }"
    @update:visible="emit('cancel')"
  >
    <Cropper
      ref="cropper"
      class="cropper"
      :src="`/media/${original}`"
      :stencil-component="round ? CircleStencil : RectangleStencil"
      :stencil-props="aspect ? { aspectRatio: aspect } : {}"
      v-bind="start"
      :transitions="false"
      :check-orientation="false"
      :canvas="false"
      :min-width="40"
      :min-height="40"
      @ready="hush"
      @change="seeFrame"
    />
    <div class="tools" role="toolbar" aria-label="The picture">
      <button class="tool" type="button" aria-label="Nearer" @click="cropper?.zoom(1.25)">
        <ZoomIn aria-hidden="true" />
      </button>
      <button class="tool" type="button" aria-label="Farther" @click="cropper?.zoom(0.8)">
        <ZoomOut aria-hidden="true" />
      </button>
      <button class="tool" type="button" aria-label="Turn" @click="cropper?.rotate(90)">
        <RotateCwSquare aria-hidden="true" />
      </button>
      <button
        class="tool"
        type="button"
        aria-label="Change left and right over"
        @click="cropper?.flip(true, false)"
      >
        <FlipVertical2 aria-hidden="true" />
      </button>
      <button
        class="tool"
        type="button"
        aria-label="Change top and bottom over"
        @click="cropper?.flip(false, true)"
      >
        <FlipHorizontal2 aria-hidden="true" />
      </button>
      <span class="soft small">Drag the {{ round ? 'circle' : 'frame' }}, or its edge.</span>
    </div>
    <p v-if="wrong" class="notice" role="alert">{{ wrong }}</p>
    <template #footer>
      <Button label="Cancel" severity="secondary" text @click="emit('cancel')" />
      <Button label="Use this cut" :loading="busy" :disabled="!framed" @click="keep" />
    </template>
  </Dialog>
</template>

<style scoped>
.cropper {
  height: 320px;
  background: var(--sunk);
  margin-bottom: 8px;
}
.tools {
  display: flex;
  align-items: center;
  gap: 4px;
}
.tools .small {
  margin-left: auto;
}
</style>
