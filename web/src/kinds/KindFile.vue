<script setup lang="ts">
import { t } from '@/i18n'
import Button from 'primevue/button'
import { useTemplateRef } from 'vue'
import type { Block } from '@/api/client'
import FieldText from '@/fields/FieldText.vue'
import { leadTo } from '@/page/leadTo'
import { upload } from '@/pictures/upload'
import { atMost, useChosenFiles } from '@/pictures/useChosenFiles'
import FieldAddress from './FieldAddress.vue'
import FieldLead from './FieldLead.vue'
import { useContent } from './useContent'

const props = defineProps<{ block: Block }>()
const { content, set, change, setLead } = useContent(() => props.block, 'file')

const input = useTemplateRef<HTMLInputElement>('input')
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
  <FieldText
    :label="$t('common.title')"
    at="title"
    :model-value="content.title"
    :maxlength="120"
    @update:model-value="set('title', $event)"
  />
  <FieldText
    :label="$t('kinds.secondLine')"
    at="line"
    :model-value="content.line"
    :maxlength="160"
    @update:model-value="set('line', $event, $t('kinds.secondLineOf'))"
  />
  <div class="field">
    <span class="label">{{ $t('kinds.file') }}</span>
    <div class="now">
      <span v-if="content.media">{{ content.name }}</span>
      <Button
        :label="content.media ? $t('kinds.uploadAnother') : $t('kinds.uploadAFile')"
        severity="secondary"
        size="small"
        :loading="busy"
        @click="input?.click()"
      />
    </div>
    <input
      ref="input"
      class="visually-hidden"
      type="file"
      :aria-label="$t('kinds.fileToHandOut')"
      tabindex="-1"
      @change="choose"
    />
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
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
