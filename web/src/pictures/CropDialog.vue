<script setup lang="ts">
import 'vue-advanced-cropper/dist/style.css'
import { FlipHorizontal2, FlipVertical2, RotateCwSquare, ZoomIn, ZoomOut } from '@lucide/vue'
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { ref, useTemplateRef } from 'vue'
import { CircleStencil, Cropper, RectangleStencil } from 'vue-advanced-cropper'
import { api, take, type Picture } from '@/api/client'
import ToolButton from '@/fields/ToolButton.vue'

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
  : { 'default-size': whole }

/** As much of the picture as its shape allows: what is left out is the creator's choice. */
function whole({ imageSize }: { imageSize: { width: number; height: number } }) {
  const { width, height } = imageSize
  const aspect = props.aspect ?? width / height
  return width / height > aspect ? { width: height * aspect, height } : { width, height: width / aspect }
}

/** A picture that is turned is flipped along its other side, to look flipped the way that was asked for. */
function flip(leftAndRight: boolean) {
  const turned = ((cropper.value?.getResult().image.transforms.rotate ?? 0) / 90) % 2 !== 0
  cropper.value?.flip(leftAndRight !== turned, leftAndRight === turned)
}

function seeFrame({ coordinates }: { coordinates: { width: number } }) {
  framed.value = coordinates.width > 0
}

/** How far a press of a key moves the frame or its edge, as a share of it. */
const STEP = 0.05

/** Arrows move the frame; plus and minus make it larger and smaller about its middle. */
function onFrameKey(event: KeyboardEvent) {
  const [across, down] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[
    event.key
  ] ?? [0, 0]
  const grow = { '+': 1, '=': 1, '-': -1 }[event.key] ?? 0
  if (!across && !down && !grow) return
  event.preventDefault()
  cropper.value?.setCoordinates(({ coordinates: { left, top, width, height } }) => {
    const [wider, higher] = [width * STEP * grow, height * STEP * grow]
    return {
      width: width + wider,
      height: height + higher,
      left: left - wider / 2 + across! * width * STEP,
      top: top - higher / 2 + down! * height * STEP,
    }
  })
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
      turn: (((Math.round(rotate / 90) % 4) + 4) % 4) * 90,
      flipX: flip.horizontal,
      flipY: flip.vertical,
    }
    emit(
      'done',
      await take(api.POST('/api/pictures/cut', { body: { original: props.original, use: props.use, cut } })),
    )
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
    :header="$t('pictures.cutThePicture')"
    :style="{ width: '34rem' }"
    :breakpoints="{ '720px': '94vw' }"
    @update:visible="emit('cancel')"
  >
    <div
      class="frame-keys"
      role="application"
      tabindex="0"
      :aria-label="round ? $t('pictures.circleOfTheCut') : $t('pictures.frameOfTheCut')"
      aria-describedby="frame-says"
      @keydown="onFrameKey"
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
        :min-width="1"
        :min-height="1"
        @ready="hush"
        @change="seeFrame"
      />
    </div>
    <div class="tools" role="toolbar" :aria-label="$t('pictures.thePicture')">
      <ToolButton :icon="ZoomIn" :label="$t('pictures.nearer')" @click="cropper?.zoom(1.25)" />
      <ToolButton :icon="ZoomOut" :label="$t('pictures.farther')" @click="cropper?.zoom(0.8)" />
      <ToolButton :icon="RotateCwSquare" :label="$t('pictures.turn')" @click="cropper?.rotate(90)" />
      <ToolButton :icon="FlipVertical2" :label="$t('pictures.changeLeftAndRightOver')" @click="flip(true)" />
      <ToolButton
        :icon="FlipHorizontal2"
        :label="$t('pictures.changeTopAndBottomOver')"
        @click="flip(false)"
      />
      <i18n-t
        id="frame-says"
        :keypath="round ? 'pictures.dragTheCircle' : 'pictures.dragTheFrame'"
        tag="span"
        class="soft small"
        scope="global"
      >
        <template #plus><kbd>+</kbd></template>
        <template #minus><kbd>−</kbd></template>
      </i18n-t>
    </div>
    <p v-if="wrong" class="notice" role="alert">{{ wrong }}</p>
    <template #footer>
      <Button :label="$t('common.cancel')" severity="secondary" text @click="emit('cancel')" />
      <Button :label="$t('pictures.useThisCut')" :loading="busy" :disabled="!framed" @click="keep" />
    </template>
  </Dialog>
</template>

<style scoped>
.cropper {
  height: 320px;
  background: var(--sunk);
  margin-bottom: 8px;
}
.frame-keys:focus-visible {
  outline: 3px solid var(--accent);
  outline-offset: 2px;
}
kbd {
  font: inherit;
  padding: 0 5px;
  border: 1px solid var(--line-strong);
  border-radius: 3px;
}
.tools {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px;
}
.tools .tool {
  flex: none;
}
.tools .small {
  margin-left: auto;
}
</style>
