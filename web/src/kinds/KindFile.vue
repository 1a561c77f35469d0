<script setup lang="ts">
import { leadTo } from '@/page/leadTo'
import Button from 'primevue/button'
import { useTemplateRef } from 'vue'
import type { Block } from '@/api/client'
import FieldText from '@/fields/FieldText.vue'
import { upload } from '@/pictures/upload'
import { atMost, useChosenFiles } from '@/pictures/useChosenFiles'
import FieldAddress from './FieldAddress.vue'
import FieldLead from './FieldLead.vue'
import { useContent } from './useContent'

const props = defineProps<{ block: Block }>()
const { content, set, change, setLead } = useContent(() => props.block, 'file')

const input = useTemplateRef<HTMLInputElement>('input')
const { busy, wrong, choose } = useChosenFiles(async ([picked]) => {
  atMost(
    15,
    picked,
    'This file is larger than 15 MB. Put it where large files are kept, and paste its address.',
  )
  const kept = await upload('/api/files', picked)
  change('Change the file', (file) => {
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
  change('Change the address', make, 'address')
}
</script>

<template>
  <FieldText
    label="Title"
    at="title"
    :model-value="content.title"
    :maxlength="120"
    @update:model-value="set('title', $event)"
  />
  <FieldText
    label="Second line"
    at="line"
    :model-value="content.line"
    :maxlength="160"
    @update:model-value="set('line', $event, 'second line')"
  />
  <div class="field">
    <span class="label">File</span>
    <div class="now">
      <span v-if="content.media">{{ content.name }}</span>
      <Button
        :label="content.media ? 'Upload another' : 'Upload a file'"
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
      aria-label="File to hand out"
      tabindex="-1"
      @change="choose"
    />
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
  </div>
  <FieldAddress
    :label="content.media ? 'Or the address of one' : 'Address of the file'"
    at="address"
    :model-value="content.address"
    still="The file is the one it was."
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
