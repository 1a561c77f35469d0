<script setup lang="ts">
import { computed } from 'vue'
import type { Document } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import FieldText from '@/fields/FieldText.vue'
import { t } from '@/i18n'
import { ALIGNMENTS } from '@/kinds/alignments'
import { usePageStore } from '@/page/pageStore'
import { partWord } from '@/page/partWord'
import FieldPicture from '@/pictures/FieldPicture.vue'
import EditorDrawer from './EditorDrawer.vue'
import FieldLanguage from './FieldLanguage.vue'

const emit = defineEmits<{ close: [] }>()

const page = usePageStore()
const header = computed(() => page.document?.header)
type Header = Document['header']

const shapes = [
  { value: 'circle', label: t('arrange.circle') },
  { value: 'rounded', label: t('arrange.rounded') },
  { value: 'square', label: t('arrange.square') },
  { value: 'none', label: t('arrange.none') },
] as const
const heights = [
  { value: 'low', label: t('arrange.low') },
  { value: 'medium', label: t('common.medium') },
  { value: 'tall', label: t('arrange.tall') },
] as const
/** Width by height of the cover on a phone of 360 pixels. */
const aspects = { low: 360 / 116, medium: 2, tall: 360 / 260 }

function set<F extends keyof Header>(field: F, value: Header[F], what: string) {
  page.change(
    t('arrange.changeTheHeader', { what: partWord(what) }),
    (draft) => void (draft.header[field] = value),
    `header/${field}`,
  )
}

function setLanguage(tag: string) {
  page.change(t('arrange.changeTheLanguage'), (draft) => void (draft.language = tag))
}
</script>

<template>
  <EditorDrawer v-if="header" :title="$t('arrange.topOfThePage')" at="header" @close="emit('close')">
    <FieldText
      :label="$t('common.name')"
      at="name"
      :model-value="header.name"
      :maxlength="60"
      @update:model-value="set('name', $event, 'name')"
    />
    <FieldText
      :label="$t('arrange.oneLineAboutYourself')"
      at="line"
      :model-value="header.line"
      :maxlength="160"
      :count-from="80"
      :hint="header.line.length >= 80 ? $t('arrange.manyPhonesFoldALine') : undefined"
      @update:model-value="set('line', $event, 'line')"
    />
    <FieldText
      :label="$t('arrange.moreAboutYourself')"
      at="about"
      :model-value="header.about"
      :maxlength="600"
      :count-from="80"
      :lines="3"
      @update:model-value="set('about', $event, $t('arrange.textAboutYourself'))"
    />
    <FieldPicture
      :label="$t('common.picture')"
      :model-value="header.picture"
      use="portrait"
      :aspect="1"
      :round="header.shape === 'circle'"
      :alt="$t('arrange.pictureAtTheTop')"
      @update:model-value="set('picture', $event, 'picture')"
    />
    <FieldChoice
      :label="$t('arrange.shownAs')"
      :model-value="header.shape"
      :options="shapes"
      @update:model-value="set('shape', $event, $t('arrange.shapeOfThePicture'))"
    />
    <FieldSwitch
      :label="$t('arrange.withAShadow')"
      :model-value="header.shadow"
      @update:model-value="set('shadow', $event, $t('arrange.shadowOfThePicture'))"
    />
    <FieldPicture
      :label="$t('arrange.cover')"
      :model-value="header.cover"
      use="column"
      :aspect="aspects[header.coverHeight ?? 'medium']"
      :alt="$t('arrange.coverAtTheTop')"
      @update:model-value="set('cover', $event, 'cover')"
    />
    <FieldChoice
      v-if="header.cover"
      :label="$t('arrange.coverHeight')"
      :model-value="header.coverHeight"
      :options="heights"
      @update:model-value="set('coverHeight', $event, $t('arrange.heightOfTheCover'))"
    />
    <FieldChoice
      :label="$t('arrange.stands')"
      :model-value="header.align"
      :options="ALIGNMENTS"
      @update:model-value="set('align', $event, 'alignment')"
    />
    <FieldLanguage
      :model-value="page.document?.language"
      :spoken="page.state?.limits.languages ?? []"
      @update:model-value="setLanguage"
    />
  </EditorDrawer>
</template>
