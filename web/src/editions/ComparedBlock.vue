<script setup lang="ts">
import { computed } from 'vue'
import type { ComparedEdition } from '@/api/client'
import PagePiece from '@/page/PagePiece.vue'

/** A block in one of two editions that are compared, or that it does not stand here. */
const props = defineProps<{
  side: ComparedEdition['first']
  row: ComparedEdition['rows'][number]
  here: boolean
}>()
const hidden = computed(() => !props.side.document.blocks.find(({ key }) => key === props.row.key)?.shown)
</script>

<template>
  <div class="side">
    <template v-if="here">
      <PagePiece
        class="cell"
        :class="{ hidden }"
        :html="side.strip.blocks[row.key] ?? ''"
        :strip="side.strip"
      />
      <span v-if="hidden" class="soft small">{{ $t('editions.hidden') }}</span>
    </template>
    <span v-else class="soft small">{{
      row.moved ? $t('editions.elsewhere') : $t('editions.notThere')
    }}</span>
  </div>
</template>

<style scoped>
.side {
  display: grid;
  align-content: center;
  justify-items: stretch;
  text-align: center;
}
.hidden {
  opacity: 0.4;
  filter: grayscale(0.6);
}
</style>
