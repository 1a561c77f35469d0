<script setup lang="ts">
import 'vue-advanced-cropper/dist/style.css'
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { onBeforeUnmount, ref, useTemplateRef } from 'vue'
import { CircleStencil, Cropper } from 'vue-advanced-cropper'
import { api, take, type Picture } from '@/api/client'

/** Cuts a chosen picture to the circle it will be shown in, and uploads the cut. */
const props = defineProps<{ file: File }>()
const emit = defineEmits<{ cancel: []; done: [picture: Picture] }>()

/** Three times the size it is shown at, for dense screens. */
const SIDE = 312

const source = URL.createObjectURL(props.file)
onBeforeUnmount(() => URL.revokeObjectURL(source))
const cropper = useTemplateRef<InstanceType<typeof Cropper>>('cropper')
const busy = ref(false)
const wrong = ref('')

/** The cropper's pictures say nothing that the dialog does not; it leaves that open. */
function hush() {
  for (const picture of document.querySelectorAll<HTMLImageElement>('.cropper img')) picture.alt = ''
}

async function use() {
  const canvas = cropper.value?.getResult().canvas
  if (!canvas) return
  busy.value = true
  wrong.value = ''
  try {
    const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'))
    if (!blob) throw new Error('The picture could not be cut. Try another one.')
    const sent = api.POST('/api/pictures', {
      body: blob as unknown as string, // the contract says "binary"; the client hands it on as it is
      bodySerializer: (body: unknown) => body as Blob,
      headers: { 'Content-Type': 'application/octet-stream' },
    })
    emit('done', await take(sent))
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
    :style="{ width: '30rem' }"
    :breakpoints="{ '720px': '94vw' }"
    @update:visible="emit('cancel')"
  >
    <Cropper
      ref="cropper"
      class="cropper"
      :src="source"
      :stencil-component="CircleStencil"
      :stencil-props="{ aspectRatio: 1 }"
      :canvas="{ width: SIDE, height: SIDE }"
      :check-orientation="false"
      :min-width="40"
      :min-height="40"
      @ready="hush"
    />
    <p class="soft small">Drag the circle, or its edge to zoom.</p>
    <p v-if="wrong" class="notice" role="alert">{{ wrong }}</p>
    <template #footer>
      <Button label="Cancel" severity="secondary" text @click="emit('cancel')" />
      <Button label="Use this cut" :loading="busy" @click="use" />
    </template>
  </Dialog>
</template>

<style scoped>
.cropper {
  height: 320px;
  background: var(--sunk);
  margin-bottom: 8px;
}
</style>
