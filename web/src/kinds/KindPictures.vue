<script setup lang="ts">
import FileButton from '@/fields/FileButton.vue'
import { t } from '@/i18n'
import { api, take, type Block } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldRange from '@/fields/FieldRange.vue'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import FieldText from '@/fields/FieldText.vue'
import ItemTools from '@/fields/ItemTools.vue'
import { moveItem } from '@/fields/reorder'
import { leadTo } from '@/page/leadTo'
import { usePageStore } from '@/page/pageStore'
import { newKey } from '@/page/newKey'
import { partWord } from '@/page/partWord'
import FieldPicture from '@/pictures/FieldPicture.vue'
import { fitToSend } from '@/pictures/pictureFile'
import { upload } from '@/pictures/upload'
import { useChosenFiles } from '@/pictures/useChosenFiles'
import FieldAddress from './FieldAddress.vue'
import { useContent } from './useContent'

const props = defineProps<{ block: Block }>()
const { content, set, change } = useContent(() => props.block, 'pictures')
const columns = [1, 2, 3].map((value) => ({ value, label: String(value) }))

const page = usePageStore()

/** Adds the chosen pictures whole; each can be cut afterwards. One that cannot be read is named, the others go on. */
const { busy, wrong, choose } = useChosenFiles(async (picked) => {
  const [there, most] = [content.value.items.length, page.state?.limits.pictures ?? 0]
  if (there + picked.length > most) throw new Error(t('kinds.thereCanBeAtMost', { most, n: there }))
  const refused: string[] = []
  for (const each of picked) {
    try {
      const { media: original } = await upload('/api/pictures', await fitToSend(each))
      const picture = await take(api.POST('/api/pictures/cut', { body: { original, use: 'column' } }))
      change(
        t('kinds.addAPicture'),
        ({ items }) => void items.push({ key: newKey(), picture, alt: '' }),
        'added',
      )
    } catch (error) {
      refused.push(`${each.name}: ${(error as Error).message}`)
    }
  }
  if (refused.length > 0) throw new Error(refused.join(' '))
})

function setItem(at: number, what: string, make: (item: (typeof content.value.items)[number]) => void) {
  change(
    t('kinds.changeAPicture', { what: partWord(what) }),
    ({ items }) => items[at] && make(items[at]),
    `${at}/${what}`,
  )
}

function move(at: number, by: number) {
  change(t('kinds.moveAPicture'), ({ items }) => moveItem(items, at, by))
}
</script>

<template>
  <FieldChoice
    :label="$t('kinds.columns')"
    :model-value="content.columns"
    :options="columns"
    @update:model-value="set('columns', $event)"
  />
  <FieldRange
    :label="$t('kinds.gap')"
    :model-value="content.gap"
    :min="0"
    :max="24"
    :unit="$t('kinds.px')"
    @update:model-value="set('gap', $event)"
  />
  <FieldRange
    :label="$t('kinds.roundCorners')"
    :model-value="content.corners"
    :min="0"
    :max="32"
    :unit="$t('kinds.px')"
    @update:model-value="set('corners', $event)"
  />
  <FieldSwitch
    :label="$t('kinds.theLastOneTakes')"
    :model-value="content.lastWide"
    @update:model-value="set('lastWide', $event, $t('kinds.lastPicture'))"
  />
  <ol class="block-items">
    <li v-for="(item, at) in content.items" :key="item.key">
      <FieldPicture
        :label="$t('kinds.pictureNumber', { n: at + 1 })"
        :model-value="item.picture"
        use="column"
        :alt="item.alt || $t('kinds.pictureNumber', { n: at + 1 })"
        @update:model-value="
          (picture) => picture && setItem(at, 'picture', (each) => (each.picture = picture))
        "
      />
      <FieldText
        :label="$t('kinds.whatIsOnIt')"
        :at="`items/${item.key}/alt`"
        :model-value="item.alt"
        :maxlength="300"
        :hint="$t('kinds.readOutToWhomCannot')"
        @update:model-value="setItem(at, 'description', (each) => (each.alt = $event))"
      />
      <FieldAddress
        :label="$t('common.leadsTo')"
        :at="`items/${item.key}/address`"
        :model-value="item.address"
        :still="$t('kinds.thePictureLeads')"
        @update:model-value="setItem(at, 'address', (each) => leadTo(each, $event))"
      />
      <ItemTools
        :name="$t('kinds.pictureNumber', { n: at + 1 })"
        :at="at"
        :count="content.items.length"
        @move="move(at, $event)"
        @remove="change($t('kinds.takeAPictureOut'), ({ items }) => items.splice(at, 1))"
      />
    </li>
  </ol>
  <FileButton
    :label="$t('kinds.addPictures')"
    :of="$t('kinds.pictureFiles')"
    accept="image/png,image/jpeg,image/webp,image/gif"
    multiple
    :busy="busy"
    @chosen="choose"
  />
  <p v-if="wrong" class="notice" role="alert">{{ wrong }}</p>
</template>
