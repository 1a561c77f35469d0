<script setup lang="ts">
import Button from 'primevue/button'
import { useToast } from 'primevue/usetoast'
import { computed } from 'vue'
import type { KeptDestination } from '@/api/client'
import { t } from '@/i18n'
import { newKey } from '@/page/newKey'
import { usePageStore } from '@/page/pageStore'

/** Makes a button on the open page of a destination. */
const props = defineProps<{ destination: KeptDestination }>()
const page = usePageStore()
const toast = useToast()
const isWeb = computed(() => /^https?:/.test(props.destination.details.address))
const name = computed(() => page.document?.header.name || page.state?.address)

function make() {
  const { id, details } = props.destination
  const lead = details.picture ? { picture: details.picture } : {}
  const button = { ...lead, title: details.title, address: details.address, destinationId: id }
  page.change(t('shelf.buttonOf', { title: details.title }), (draft) => {
    draft.blocks.push({ key: newKey(), kind: 'button', shown: true, button })
  })
  toast.add({ severity: 'success', summary: t('shelf.buttonMade', { page: name.value }), life: 5000 })
}
</script>

<template>
  <Button
    v-if="isWeb && page.loaded"
    severity="secondary"
    size="small"
    :label="$t('shelf.makeButton', { page: name })"
    @click="make"
  />
</template>
