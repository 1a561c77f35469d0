<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { useLocalStorage } from '@vueuse/core'
import Button from 'primevue/button'
import { computed } from 'vue'
import { offQuery } from '@/api/queries'
import { offWords } from './offWords'

/** The one thing that is told without being asked: something fell silent, or took off. */
const props = defineProps<{ pageId: string }>()
const { data: off } = useQuery(offQuery(() => props.pageId))
const words = computed(() => (off.value ? offWords(off.value) : ''))
/** What was read and put away stays away until something else is off. */
const putAway = useLocalStorage('jundle-off-put-away', '')
const known = computed(
  () => `${off.value?.kind} ${off.value?.block ?? off.value?.source} ${off.value?.since}`,
)
const to = computed(() =>
  off.value?.block
    ? { name: 'one-button', params: { page: props.pageId, block: off.value.block } }
    : { name: 'one-source', params: { page: props.pageId, source: off.value?.source ?? '' } },
)
</script>

<template>
  <p v-if="words && putAway !== known" class="notice off" role="status">
    <span>{{ words }}</span>
    <RouterLink class="look" :to="to">{{ $t('off.look') }}</RouterLink>
    <Button size="small" text severity="secondary" :label="$t('off.putAway')" @click="putAway = known" />
  </p>
</template>

<style scoped>
.off {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 14px;
}
</style>
