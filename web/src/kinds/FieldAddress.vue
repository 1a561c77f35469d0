<script setup lang="ts">
import { ref } from 'vue'
import FieldText from '@/fields/FieldText.vue'
import { usePageStore } from '@/page/pageStore'

/** Where something leads. It is read as a pasted address is; what cannot be linked is not kept. */
const props = defineProps<{
  label: string
  modelValue: string | undefined
  optional?: boolean
  still: string
}>()
const emit = defineEmits<{ 'update:modelValue': [address: string] }>()

const page = usePageStore()
const wrong = ref('')

async function keep(text: string) {
  wrong.value = ''
  if (props.optional && !text.trim()) {
    emit('update:modelValue', '')
    return
  }
  try {
    emit('update:modelValue', await page.readAddress(text))
  } catch (error) {
    wrong.value = `${(error as Error).message} ${props.still}`
  }
}
</script>

<template>
  <FieldText
    :label="label"
    :model-value="modelValue"
    inputmode="url"
    lazy
    :wrong="wrong"
    @update:model-value="keep"
  />
</template>
