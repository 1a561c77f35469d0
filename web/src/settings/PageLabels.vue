<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, take } from '@/api/client'
import { pagesQuery } from '@/api/queries'
import FieldText from '@/fields/FieldText.vue'
import { usePageStore } from '@/page/pageStore'

/** What the page is grouped by in the list of pages. */
const page = usePageStore()
const client = useQueryClient()
const { data: pages } = useQuery(pagesQuery())
const labels = computed(() => pages.value?.find(({ id }) => id === page.state?.id)?.labels ?? [])
const keep = useMutation({
  mutationFn: (text: string) => {
    const written = text.split(',').map((label) => label.trim()).filter(Boolean) // prettier-ignore
    const path = { page: page.state?.id ?? '' }
    return take(api.PUT('/api/pages/{page}/labels', { params: { path }, body: { labels: written } }))
  },
  onSettled: () => client.invalidateQueries({ queryKey: ['pages'] }),
})
</script>

<template>
  <section :aria-label="$t('pages.labels')">
    <FieldText
      :label="$t('pages.labels')"
      :model-value="labels.join(', ')"
      :hint="$t('pages.labelsSay')"
      :wrong="keep.error.value?.message"
      lazy
      @update:model-value="keep.mutate($event)"
    />
  </section>
</template>
