<script setup lang="ts">
import Button from 'primevue/button'
import { defineAsyncComponent, ref } from 'vue'
import type { Picture } from '@/api/client'
import FileButton from '@/fields/FileButton.vue'
import WrongText from '@/fields/WrongText.vue'
import { fitToSend } from './pictureFile'
import { upload } from './upload'
import { useChosenFiles } from './useChosenFiles'

const CropDialog = defineAsyncComponent(() => import('./CropDialog.vue'))

/** A picture: chosen, cut in the shape it will be shown in, cut again, taken away. */
const props = defineProps<{
  label: string
  modelValue: Picture | undefined
  use: 'portrait' | 'small' | 'column' | 'ground'
  aspect?: number
  round?: boolean
  /** What it is, for whom cannot see it in the editor. */
  alt: string
}>()
const emit = defineEmits<{ 'update:modelValue': [picture: Picture | undefined] }>()

const cutting = ref<{ original: string; cut?: Picture['cut'] }>()

const { busy, wrong, choose } = useChosenFiles(async ([picked]) => {
  cutting.value = { original: (await upload('/api/pictures', await fitToSend(picked))).media }
})

function cutAgain() {
  const { original, cut } = props.modelValue ?? {}
  if (original) cutting.value = { original, cut }
}

function done(picture: Picture) {
  cutting.value = undefined
  emit('update:modelValue', picture)
}
</script>

<template>
  <div class="field">
    <span class="label">{{ label }}</span>
    <div class="picture">
      <img
        v-if="modelValue"
        :class="{ round }"
        :src="`/media/${modelValue.sizes?.[0]?.media ?? modelValue.media}`"
        width="72"
        height="72"
        :alt="alt"
      />
      <FileButton
        :label="modelValue ? $t('common.chooseAnother') : $t('pictures.chooseAPicture')"
        :of="$t('pictures.file', { label })"
        accept="image/png,image/jpeg,image/webp,image/gif"
        :busy="busy"
        @chosen="choose"
      />
      <Button
        v-if="modelValue?.original"
        :label="$t('pictures.cutAgain')"
        severity="secondary"
        text
        size="small"
        @click="cutAgain"
      />
      <Button
        v-if="modelValue"
        :label="$t('pictures.takeItAway')"
        severity="secondary"
        text
        size="small"
        @click="emit('update:modelValue', undefined)"
      />
      <slot />
    </div>
    <p v-if="busy" class="soft" role="status">
      {{ $t('pictures.sendingThePictureAndWaiting') }}
    </p>
    <WrongText :text="wrong" />
    <CropDialog
      v-if="cutting"
      :original="cutting.original"
      :cut="cutting.cut"
      :use="use"
      :aspect="aspect"
      :round="round"
      @cancel="cutting = undefined"
      @done="done"
    />
  </div>
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
  gap: 8px;
}
.picture img {
  border-radius: 8px;
  object-fit: cover;
  border: 1px solid var(--line);
}
.picture img.round {
  border-radius: 50%;
}
</style>
