<script setup lang="ts">
import { leadTo } from '@/page/leadTo'
import Button from 'primevue/button'
import { useTemplateRef } from 'vue'
import { api, take, type Block } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldRange from '@/fields/FieldRange.vue'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import FieldText from '@/fields/FieldText.vue'
import ItemTools from '@/fields/ItemTools.vue'
import { moveItem } from '@/fields/reorder'
import { usePageStore } from '@/page/pageStore'
import { newKey } from '@/page/newKey'
import FieldPicture from '@/pictures/FieldPicture.vue'
import { fitToSend } from '@/pictures/pictureFile'
import { upload } from '@/pictures/upload'
import { useChosenFiles } from '@/pictures/useChosenFiles'
import FieldAddress from './FieldAddress.vue'
import { useContent } from './useContent'

const props = defineProps<{ block: Block }>()
const { content, set, change } = useContent(() => props.block, 'pictures')
const columns = [1, 2, 3].map((value) => ({ value, label: String(value) }))

const file = useTemplateRef<HTMLInputElement>('file')

const page = usePageStore()

/** Adds the chosen pictures whole; each can be cut afterwards. One that cannot be read is named, the others go on. */
const { busy, wrong, choose } = useChosenFiles(async (picked) => {
  const [there, most] = [content.value.items.length, page.state?.limits.pictures ?? 0]
  if (there + picked.length > most)
    throw new Error(`There can be at most ${most} pictures, and ${there} are here. Nothing was added.`)
  const refused: string[] = []
  for (const each of picked) {
    try {
      const { media: original } = await upload('/api/pictures', await fitToSend(each))
      const picture = await take(api.POST('/api/pictures/cut', { body: { original, use: 'column' } }))
      change('Add a picture', ({ items }) => void items.push({ key: newKey(), picture, alt: '' }), 'added')
    } catch (error) {
      refused.push(`${each.name}: ${(error as Error).message}`)
    }
  }
  if (refused.length > 0) throw new Error(refused.join(' '))
})

function setItem(at: number, what: string, make: (item: (typeof content.value.items)[number]) => void) {
  change(`Change the ${what} of a picture`, ({ items }) => items[at] && make(items[at]), `${at}/${what}`)
}

function move(at: number, by: number) {
  change('Move a picture', ({ items }) => moveItem(items, at, by))
}
</script>

<template>
  <FieldChoice
    label="Columns"
    :model-value="content.columns"
    :options="columns"
    @update:model-value="set('columns', $event)"
  />
  <FieldRange
    label="Gap"
    :model-value="content.gap"
    :min="0"
    :max="24"
    unit=" px"
    @update:model-value="set('gap', $event)"
  />
  <FieldRange
    label="Round corners"
    :model-value="content.corners"
    :min="0"
    :max="32"
    unit=" px"
    @update:model-value="set('corners', $event)"
  />
  <FieldSwitch
    label="The last one takes the whole width"
    :model-value="content.lastWide"
    @update:model-value="set('lastWide', $event, 'last picture')"
  />
  <ol class="items">
    <li v-for="(item, at) in content.items" :key="item.key">
      <FieldPicture
        :label="`Picture ${at + 1}`"
        :model-value="item.picture"
        use="column"
        :alt="item.alt || `Picture ${at + 1}`"
        @update:model-value="
          (picture) => picture && setItem(at, 'picture', (each) => (each.picture = picture))
        "
      />
      <FieldText
        label="What is on it"
        :at="`items/${item.key}/alt`"
        :model-value="item.alt"
        :maxlength="300"
        hint="Read out to whom cannot see it."
        @update:model-value="setItem(at, 'description', (each) => (each.alt = $event))"
      />
      <FieldAddress
        label="Leads to"
        :at="`items/${item.key}/address`"
        :model-value="item.address"
        still="The picture leads where it did."
        @update:model-value="setItem(at, 'address', (each) => leadTo(each, $event))"
      />
      <ItemTools
        :name="`Picture ${at + 1}`"
        :at="at"
        :count="content.items.length"
        @move="move(at, $event)"
        @remove="change('Take a picture out', ({ items }) => items.splice(at, 1))"
      />
    </li>
  </ol>
  <input
    ref="file"
    class="visually-hidden"
    type="file"
    multiple
    accept="image/png,image/jpeg,image/webp,image/gif"
    aria-label="Picture files"
    tabindex="-1"
    @change="choose"
  />
  <Button label="Add pictures" severity="secondary" :loading="busy" @click="file?.click()" />
  <p v-if="wrong" class="notice" role="alert">{{ wrong }}</p>
</template>

<style scoped>
.items {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 14px;
}
.items > li {
  display: grid;
  gap: 10px;
  padding: 12px;
  border: 1px solid var(--line);
  border-radius: 6px;
}
</style>
