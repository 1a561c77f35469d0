<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, defineAsyncComponent, ref, useTemplateRef, watch } from 'vue'
import type { Picture } from '@/api/client'
import { usePageStore } from '@/page/pageStore'
import EditorDrawer from './EditorDrawer.vue'
import { pictureProblem } from './pictureFile'

const CropDialog = defineAsyncComponent(() => import('./CropDialog.vue'))
const emit = defineEmits<{ close: [] }>()

const page = usePageStore()
const header = computed(() => page.document?.header)
const name = ref('')
const line = ref('')
const chosen = ref<File>()
const wrong = ref('')
const file = useTemplateRef<HTMLInputElement>('file')

watch(
  header,
  (now, before) => {
    if (now?.name !== before?.name) name.value = now?.name ?? ''
    if (now?.line !== before?.line) line.value = now?.line ?? ''
  },
  { immediate: true },
)

function keep(field: 'name' | 'line', text: string) {
  page.change(
    field === 'name' ? 'Change the name' : 'Change the line',
    (draft) => (draft.header[field] = text.trim()),
  )
}

async function choose(event: Event) {
  const input = event.target as HTMLInputElement
  const picked = input.files?.[0]
  input.value = ''
  if (!picked) return
  wrong.value = await pictureProblem(picked)
  if (!wrong.value) chosen.value = picked
}

function setPicture(picture: Picture | undefined) {
  chosen.value = undefined
  page.change(
    picture ? 'Set the picture' : 'Take the picture away',
    (draft) => (draft.header.picture = picture),
  )
}
</script>

<template>
  <EditorDrawer title="Top of the page" @close="emit('close')">
    <div class="field">
      <label for="header-name">Name</label>
      <InputText id="header-name" v-model="name" maxlength="60" @change="keep('name', name)" />
    </div>
    <div class="field">
      <label for="header-line">One line about yourself</label>
      <InputText id="header-line" v-model="line" maxlength="160" @change="keep('line', line)" />
    </div>
    <div class="field">
      <span class="label">Picture</span>
      <div class="picture">
        <img
          v-if="header?.picture"
          :src="`/media/${header.picture.media}`"
          width="72"
          height="72"
          alt="Picture at the top of the page"
        />
        <Button
          :label="header?.picture ? 'Choose another' : 'Choose a picture'"
          severity="secondary"
          size="small"
          @click="file?.click()"
        />
        <Button
          v-if="header?.picture"
          label="Take it away"
          severity="secondary"
          text
          size="small"
          @click="setPicture(undefined)"
        />
      </div>
      <input
        ref="file"
        class="visually-hidden"
        type="file"
        accept="image/png,image/jpeg,image/webp,image/gif"
        aria-label="Picture file"
        tabindex="-1"
        @change="choose"
      />
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    </div>
    <CropDialog v-if="chosen" :file="chosen" @cancel="chosen = undefined" @done="setPicture" />
  </EditorDrawer>
</template>

<style scoped>
.label {
  font-weight: 600;
  font-size: 0.9rem;
}
.picture {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 10px;
}
.picture img {
  border-radius: 50%;
  object-fit: cover;
  border: 1px solid var(--line);
}
</style>
