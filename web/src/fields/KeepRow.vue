<script setup lang="ts">
import Button from 'primevue/button'

/** The end of a form that stands in place of what it changes: keep it, or leave it as it was. */
defineProps<{ busy?: boolean; small?: boolean }>()
const emit = defineEmits<{ cancel: [] }>()
</script>

<template>
  <Button type="submit" :size="small ? 'small' : undefined" :label="$t('common.keep')" :loading="busy" />
  <Button
    severity="secondary"
    text
    :size="small ? 'small' : undefined"
    :label="$t('common.cancel')"
    @click="emit('cancel')"
  />
</template>
