<script setup lang="ts">
import FileButton from '@/fields/FileButton.vue'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import type { Block } from '@/api/client'
import { leadTo } from '@/page/leadTo'
import { upload } from '@/pictures/upload'
import { atMost, useChosenFiles } from '@/pictures/useChosenFiles'
import FieldAddress from './FieldAddress.vue'
import FieldLead from './FieldLead.vue'
import TitleAndLine from './TitleAndLine.vue'
import { useContent } from './useContent'

const props = defineProps<{ block: Block }>()
const { content, set, change, setLead } = useContent(() => props.block, 'file')

const { busy, wrong, choose } = useChosenFiles(async ([picked]) => {
  atMost(15, picked, t('kinds.thisFileIsLarger'))
  const kept = await upload('/api/files', picked)
  change(t('kinds.changeTheFile'), (file) => {
    Object.assign(file, {
      media: kept.media,
      bytes: kept.bytes,
      name: picked.name,
      address: '',
      destinationId: undefined,
    })
  })
})

function setAddress(address: string) {
  const make = (file: typeof content.value) =>
    leadTo(Object.assign(file, { media: '', name: '', bytes: 0 }), address)
  change(t('kinds.changeTheAddress'), make, 'address')
}
</script>

<template>
  <TitleAndLine
    :content="content"
    @title="set('title', $event)"
    @line="set('line', $event, $t('kinds.secondLineOf'))"
  />
  <div class="field">
    <span class="label">{{ $t('kinds.file') }}</span>
    <div class="now">
      <span v-if="content.media">{{ content.name }}</span>
      <FileButton
        :label="content.media ? $t('kinds.uploadAnother') : $t('kinds.uploadAFile')"
        :of="$t('kinds.fileToHandOut')"
        :busy="busy"
        @chosen="choose"
      />
    </div>
    <WrongText :text="wrong" />
  </div>
  <FieldAddress
    :label="content.media ? $t('kinds.orTheAddressOfOne') : $t('kinds.addressOfTheFile')"
    at="address"
    :model-value="content.address"
    :still="$t('kinds.theFileIsTheOne')"
    @update:model-value="setAddress"
  />
  <FieldLead :lead="content" @change="setLead" />
</template>

<style scoped>
.label {
  font-weight: 600;
  font-size: 0.9rem;
}
.now {
  display: flex;
  align-items: center;
  gap: 10px;
  flex-wrap: wrap;
  overflow-wrap: anywhere;
}
</style>
