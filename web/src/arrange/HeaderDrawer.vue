<script setup lang="ts">
import { computed } from 'vue'
import type { Document } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import FieldText from '@/fields/FieldText.vue'
import { ALIGNMENTS } from '@/kinds/alignments'
import { usePageStore } from '@/page/pageStore'
import FieldPicture from '@/pictures/FieldPicture.vue'
import EditorDrawer from './EditorDrawer.vue'

const emit = defineEmits<{ close: [] }>()

const page = usePageStore()
const header = computed(() => page.document?.header)
type Header = Document['header']

const shapes = [
  { value: 'circle', label: 'Circle' },
  { value: 'rounded', label: 'Rounded' },
  { value: 'square', label: 'Square' },
  { value: 'none', label: 'None' },
] as const
const heights = [
  { value: 'low', label: 'Low' },
  { value: 'medium', label: 'Medium' },
  { value: 'tall', label: 'Tall' },
] as const
/** Width by height of the cover on a phone of 360 pixels. */
const aspects = { low: 360 / 116, medium: 2, tall: 360 / 260 }

function set<F extends keyof Header>(field: F, value: Header[F], what: string) {
  page.change(`Change the ${what}`, (draft) => void (draft.header[field] = value), `header/${field}`)
}

function setLanguage(tag: string) {
  page.change('Change the language', (draft) => void (draft.language = tag.trim()))
}
</script>

<template>
  <EditorDrawer v-if="header" title="Top of the page" at="header" @close="emit('close')">
    <FieldText
      label="Name"
      at="name"
      :model-value="header.name"
      :maxlength="60"
      @update:model-value="set('name', $event, 'name')"
    />
    <FieldText
      label="One line about yourself"
      at="line"
      :model-value="header.line"
      :maxlength="160"
      :count-from="80"
      :hint="header.line.length >= 80 ? 'Many phones fold a line of this length.' : undefined"
      @update:model-value="set('line', $event, 'line')"
    />
    <FieldText
      label="More about yourself"
      at="about"
      :model-value="header.about"
      :maxlength="600"
      :count-from="80"
      :lines="3"
      @update:model-value="set('about', $event, 'text about yourself')"
    />
    <FieldPicture
      label="Picture"
      :model-value="header.picture"
      use="portrait"
      :aspect="1"
      :round="header.shape === 'circle'"
      alt="Picture at the top of the page"
      @update:model-value="set('picture', $event, 'picture')"
    />
    <FieldChoice
      label="Shown as"
      :model-value="header.shape"
      :options="shapes"
      @update:model-value="set('shape', $event, 'shape of the picture')"
    />
    <FieldSwitch
      label="With a shadow"
      :model-value="header.shadow"
      @update:model-value="set('shadow', $event, 'shadow of the picture')"
    />
    <FieldPicture
      label="Cover"
      :model-value="header.cover"
      use="column"
      :aspect="aspects[header.coverHeight ?? 'medium']"
      alt="Cover at the top of the page"
      @update:model-value="set('cover', $event, 'cover')"
    />
    <FieldChoice
      v-if="header.cover"
      label="Height of the cover"
      :model-value="header.coverHeight"
      :options="heights"
      @update:model-value="set('coverHeight', $event, 'height of the cover')"
    />
    <FieldChoice
      label="Stands"
      :model-value="header.align"
      :options="ALIGNMENTS"
      @update:model-value="set('align', $event, 'alignment')"
    />
    <FieldText
      label="Language of the page"
      :model-value="page.document?.language"
      :maxlength="12"
      lazy
      hint="A code such as en, de or pt-BR; prices are written as it writes them."
      @update:model-value="setLanguage"
    />
  </EditorDrawer>
</template>
