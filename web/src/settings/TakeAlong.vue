<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed } from 'vue'
import { api, take } from '@/api/client'
import { exportQuery } from '@/api/queries'
import WrongText from '@/fields/WrongText.vue'
import { counted } from '@/figures'
import { formatsOf, t } from '@/i18n'

/** Everything of the workspace as a zip: made on the server first, then downloaded. */
const client = useQueryClient()
const { data: stands } = useQuery(exportQuery())
const again = () => client.invalidateQueries({ queryKey: ['export'] })
const begin = useMutation({
  mutationFn: () => take(api.POST('/api/workspace/export')),
  onSuccess: again,
})
const stop = useMutation({
  mutationFn: () => take(api.DELETE('/api/workspace/export')),
  onSuccess: again,
})

const running = computed(() => stands.value?.state === 'running')
const ready = computed(() => stands.value?.state === 'ready')
const share = computed(() => (stands.value?.parts ? stands.value.done / stands.value.parts : 0))
const size = computed(() => {
  const bytes = stands.value?.bytes ?? 0
  return bytes < 1 << 20
    ? t('settings.kilobytes', { n: Math.ceil(bytes / 1024) })
    : t('settings.megabytesOf', { n: (bytes / 1024 / 1024).toFixed(1) })
})
const time = (text: string | undefined) =>
  text
    ? new Date(text).toLocaleString(formatsOf(), {
        day: 'numeric',
        month: 'long',
        hour: '2-digit',
        minute: '2-digit',
      })
    : ''
</script>

<template>
  <div class="along">
    <div v-if="running" class="under" role="status">
      <p>
        {{
          stands?.parts
            ? $t('settings.writingParts', { done: stands.done, parts: counted(stands.parts, 'part') })
            : $t('settings.writingEverything')
        }}
      </p>
      <div
        class="bar"
        role="progressbar"
        :aria-label="$t('settings.export')"
        aria-valuemin="0"
        aria-valuemax="100"
        :aria-valuenow="Math.round(share * 100)"
      >
        <i :style="{ width: `${Math.max(2, share * 100)}%` }"></i>
      </div>
      <Button
        :label="$t('settings.stop')"
        severity="secondary"
        size="small"
        :loading="stop.isPending.value"
        @click="stop.mutate()"
      />
    </div>
    <template v-else>
      <p v-if="stands?.state === 'failed'" class="wrong" role="alert">
        {{ $t('settings.theLastExportBrokeOff') }}
      </p>
      <div class="acts">
        <a v-if="ready" class="act" href="/api/workspace/export/file" download>{{
          $t('settings.downloadEverythingZip', { size })
        }}</a>
        <Button
          :label="ready ? $t('settings.makeItAnew') : $t('settings.takeEverythingAlong')"
          severity="secondary"
          :loading="begin.isPending.value"
          @click="begin.mutate()"
        />
      </div>
      <p v-if="ready" class="soft">
        {{ $t('settings.asOfItIsKept', { time: time(stands?.startedAt), until: time(stands?.until) }) }}
      </p>
      <p v-if="!ready" class="soft">
        {{ $t('settings.pagesEditionsFiguresEvents') }}
      </p>
    </template>
    <WrongText :text="begin.error.value?.message" />
  </div>
</template>

<style scoped>
.along,
.under {
  display: grid;
  gap: 10px;
  justify-items: start;
  width: 100%;
  max-width: 36rem;
}
.along p {
  margin: 0;
}
.bar {
  width: 100%;
  height: 8px;
  border: 1px solid var(--line-strong);
}
.bar i {
  display: block;
  height: 100%;
  background: var(--accent);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 12px;
}
.act {
  padding: 7px 14px;
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  font-weight: 600;
  text-decoration: none;
}
.wrong {
  color: var(--danger);
}
</style>
