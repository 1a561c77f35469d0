<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import SelectButton from 'primevue/selectbutton'
import Skeleton from 'primevue/skeleton'
import { useToast } from 'primevue/usetoast'
import { computed } from 'vue'
import { api, take, type PageSummary } from '@/api/client'
import { pagesQuery } from '@/api/queries'
import { t } from '@/i18n'
import { usePageStore } from '@/page/pageStore'
import { useSession } from '@/session'
import { bare } from '@/shelf/shortLinks'
import { useInAddress } from '@/shell/useInAddress'
import NewPage from './NewPage.vue'
import PageRow from './PageRow.vue'
import { labelsOf, nameOf } from './standing'

/** All pages of the workspace: how each stands, and what was pressed on it this week. */
const session = useSession()
const toast = useToast()
const client = useQueryClient()
const open = usePageStore()
const { data: pages, error } = useQuery({ ...pagesQuery(), refetchOnMount: 'always' })
const host = computed(() => bare(session.me?.pageOrigin ?? ''))
const label = useInAddress('label', '')
/** No label has a blank alone, and the choice takes an empty value for none. */
const ALL = ' '
const labels = computed(() => labelsOf(pages.value ?? []))
const narrowings = computed(() => [
  { value: ALL, label: t('pages.allLabels') },
  ...labels.value.map((each) => ({ value: each, label: each })),
])
const there = computed(() => (pages.value ?? []).filter(({ state }) => state !== 'deleted'))
const listed = computed(() => there.value.filter((each) => !label.value || each.labels.includes(label.value)))
const deleted = computed(() => (pages.value ?? []).filter(({ state }) => state === 'deleted'))

const keep = useMutation({
  mutationFn: (page: PageSummary) =>
    take(api.POST('/api/pages/{page}/keep', { params: { path: { page: page.id } } })),
  onSuccess: async (_, page) => {
    toast.add({ severity: 'success', summary: t('pages.keptAgain', { name: nameOf(page) }), life: 4000 })
    await client.invalidateQueries({ queryKey: ['pages'] })
    await open.refresh()
  },
  onError: (failed) => toast.add({ severity: 'error', summary: failed.message, life: 10_000 }),
})
</script>

<template>
  <div class="view">
    <div class="view-head">
      <div>
        <h1>{{ $t('pages.pages') }}</h1>
        <p>{{ $t('pages.lead') }}</p>
      </div>
    </div>
    <p v-if="error" class="notice">{{ error.message }}</p>
    <SelectButton
      v-if="labels.length"
      :model-value="label || ALL"
      class="narrow"
      :options="narrowings"
      option-value="value"
      option-label="label"
      :allow-empty="false"
      :aria-label="$t('pages.label')"
      @update:model-value="label = $event === ALL ? '' : $event"
    />
    <Skeleton v-if="!pages && !error" height="200px" />
    <template v-else>
      <p class="head soft" aria-hidden="true">{{ $t('pages.inSevenDays') }}</p>
      <ul class="pages" :aria-label="$t('pages.pages')">
        <PageRow v-for="each in listed" :key="each.id" :page="each" :host="host" />
        <PageRow v-for="each in deleted" :key="each.id" :page="each" :host="host">
          <Button
            size="small"
            severity="secondary"
            :label="$t('pages.keepAfterAll')"
            :loading="keep.isPending.value"
            @click="keep.mutate(each)"
          />
        </PageRow>
      </ul>
    </template>
    <NewPage v-if="pages" :pages="there" />
  </div>
</template>

<style scoped>
.narrow {
  margin-bottom: 8px;
  flex-wrap: wrap;
}
.head {
  margin: 0;
  padding: 0 52px 4px 0;
  text-align: right;
  font-size: 0.8rem;
}
.pages {
  list-style: none;
  margin: 0;
  padding: 0;
}
@media (max-width: 720px) {
  .head {
    padding-right: 4px;
  }
}
</style>
