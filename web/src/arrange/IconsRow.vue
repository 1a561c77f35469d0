<script setup lang="ts">
import type { Strip } from '@/api/client'
import FixedRow from './FixedRow.vue'

/** The row of profile icons, above the blocks or below them. What stands in it are its figures. */
defineProps<{ strip: Strip; open: boolean }>()
const emit = defineEmits<{ open: [] }>()
</script>

<template>
  <FixedRow
    name="icons"
    :label="$t('arrange.editTheProfileIcons')"
    :hollow="$t('arrange.profileIcons')"
    :html="strip.icons"
    :strip="strip"
    :open="open"
    @open="emit('open')"
    ><slot
  /></FixedRow>
</template>
