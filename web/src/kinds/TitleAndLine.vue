<script setup lang="ts">
import FieldText from '@/fields/FieldText.vue'

/** What stands on a button: its title, and a second line below it. */
defineProps<{ content: { title: string; line?: string }; hint?: string }>()
const emit = defineEmits<{ title: [title: string]; line: [line: string] }>()
</script>

<template>
  <FieldText
    :label="$t('common.title')"
    at="title"
    :model-value="content.title"
    :maxlength="120"
    @update:model-value="emit('title', $event)"
  />
  <FieldText
    :label="$t('kinds.secondLine')"
    at="line"
    :model-value="content.line"
    :maxlength="160"
    :hint="hint"
    @update:model-value="emit('line', $event)"
  />
</template>
