<script setup lang="ts">
import { Copy } from '@lucide/vue'
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed } from 'vue'
import { api, take } from '@/api/client'
import ToolButton from '@/fields/ToolButton.vue'
import WrongText from '@/fields/WrongText.vue'
import { useCopy } from '@/shell/useCopy'
import { momentWords } from './stateWords'

/** An address under which others can look at the page as it is seen here, for two days. */
const props = defineProps<{ pageId: string; at: string; from: string; zone: string }>()
const copy = useCopy()
const params = () => ({ path: { page: props.pageId } })
const HOURS = 48

const make = useMutation({
  mutationFn: () =>
    take(api.POST('/api/pages/{page}/previews', { params: params(), body: { hours: HOURS } })),
})
const close = useMutation({
  mutationFn: () => take(api.DELETE('/api/pages/{page}/previews', { params: params() })),
  onSuccess: () => make.reset(),
})

const address = computed(() => {
  if (!make.data.value) return ''
  const url = new URL(make.data.value.address)
  if (props.at) url.searchParams.set('at', props.at)
  if (props.from) url.searchParams.set('from', props.from)
  return url.href
})
</script>

<template>
  <div class="preview">
    <template v-if="make.data.value">
      <span class="made">
        <input
          :value="address"
          readonly
          :aria-label="$t('arrange.previewAddress')"
          @focus="($event.target as HTMLInputElement).select()"
        />
        <ToolButton
          :icon="Copy"
          :label="$t('arrange.copyPreview')"
          @click="copy(address, $t('arrange.previewAddress'))"
        />
      </span>
      <span class="small">{{
        $t('arrange.previewUntil', { until: momentWords(make.data.value.until, zone) })
      }}</span>
      <Button
        size="small"
        text
        :label="$t('arrange.closePreviews')"
        :loading="close.isPending.value"
        @click="close.mutate()"
      />
    </template>
    <Button
      v-else
      size="small"
      severity="secondary"
      :label="$t('arrange.letOthersLook')"
      :loading="make.isPending.value"
      @click="make.mutate()"
    />
    <WrongText :text="make.error.value?.message ?? close.error.value?.message" />
  </div>
</template>

<style scoped>
.preview,
.made {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 8px;
}
.made {
  flex-wrap: nowrap;
  flex: 1 1 260px;
  min-width: 0;
}
input {
  flex: 1;
  min-width: 0;
  padding: 6px 8px;
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  background: var(--surface);
  color: inherit;
  font: inherit;
  font-size: 0.87rem;
}
</style>
