<script setup lang="ts">
import Button from 'primevue/button'
import { useTemplateRef } from 'vue'

/** A button that asks for files of this device. */
defineOptions({ inheritAttrs: false })
defineProps<{
  label: string
  /** What the field of files is called for those who cannot see the button. */
  of: string
  accept?: string
  multiple?: boolean
  busy?: boolean
}>()
const emit = defineEmits<{ chosen: [files: [File, ...File[]]] }>()
const input = useTemplateRef<HTMLInputElement>('input')

function choose(event: Event) {
  const field = event.target as HTMLInputElement
  const [first, ...more] = field.files ?? []
  // The same file may be chosen again.
  field.value = ''
  if (first) emit('chosen', [first, ...more])
}
</script>

<template>
  <Button
    severity="secondary"
    size="small"
    v-bind="$attrs"
    :label="label"
    :loading="busy"
    @click="input?.click()"
  />
  <input
    ref="input"
    class="visually-hidden"
    type="file"
    :accept="accept"
    :multiple="multiple"
    :aria-label="of"
    tabindex="-1"
    @change="choose"
  />
</template>
