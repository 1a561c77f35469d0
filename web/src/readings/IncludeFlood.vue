<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { useConfirm } from 'primevue/useconfirm'
import { api, take } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { counted } from '@/figures'
import { t } from '@/i18n'

/** Counts visits that were not counted because one network sent very many, such as a concert hall. */
const props = defineProps<{ pageId: string; range: string; events: number }>()
const confirm = useConfirm()
const queries = useQueryClient()
const include = useMutation({
  mutationFn: () =>
    take(
      api.POST('/api/pages/{page}/left-out/flood', {
        params: { path: { page: props.pageId }, query: { range: props.range } },
      }),
    ),
  onSuccess: () => queries.invalidateQueries({ queryKey: ['left-out'] }),
})
function ask() {
  confirm.require({
    header: t('readings.includeThese'),
    message: t('readings.includeSays', { events: counted(props.events, 'event') }),
    acceptProps: { label: t('readings.include') },
    rejectProps: { label: t('common.cancel'), severity: 'secondary', text: true },
    accept: () => include.mutate(),
  })
}
</script>

<template>
  <Button
    v-if="!include.isSuccess.value"
    size="small"
    text
    :label="$t('readings.include')"
    :loading="include.isPending.value"
    @click="ask"
  />
  <span v-else class="soft" role="status">{{ $t('readings.included') }}</span>
  <WrongText :text="include.error.value?.message" />
</template>
