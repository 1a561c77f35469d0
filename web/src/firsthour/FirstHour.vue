<script setup lang="ts">
import { Check, Circle } from '@lucide/vue'
import { useQuery } from '@tanstack/vue-query'
import { useLocalStorage } from '@vueuse/core'
import Button from 'primevue/button'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { sourcesQuery } from '@/api/queries'
import { t } from '@/i18n'
import { usePageStore } from '@/page/pageStore'
import { placeholdersOf } from '@/page/placeholders'
import { usePublishing } from '@/shell/usePublishing'
import { doneOf, FIRST_STEPS, nextOf, type FirstStep } from './firstSteps'

/** What comes next on a new page, in one line, until somebody has come from a source. */
const props = defineProps<{ pageId: string }>()
const page = usePageStore()
const router = useRouter()
const publishing = usePublishing()
const putAway = useLocalStorage<string[]>('first-hour-put-away', [])

/** How often it is looked whether a first visit has come, in milliseconds. */
const LOOKS_EVERY = 5_000
const { data: sources } = useQuery({
  ...sourcesQuery(() => props.pageId),
  refetchInterval: ({ state }) =>
    state.data?.length && state.data.every(({ seenAt }) => !seenAt) && LOOKS_EVERY,
})

const done = computed(() => {
  if (!page.document || !page.state || !sources.value) return undefined
  const inUse = sources.value.filter(({ retired }) => !retired)
  return doneOf({ document: page.document, liveEdition: page.state.liveEdition, sources: inUse })
})
const next = computed(() => done.value && nextOf(done.value))
const shown = computed(() => next.value && !putAway.value.includes(props.pageId))
const steps = computed(() => FIRST_STEPS.map((step) => ({ step, done: !!done.value?.has(step) })))

const WORDS: Record<FirstStep, () => string> = {
  name: () => t('firsthour.name'),
  addresses: () => t('firsthour.addresses'),
  publish: () => t('firsthour.publish'),
  source: () => t('firsthour.source'),
  visit: () => t('firsthour.visit'),
}

function lead() {
  const params = { page: props.pageId }
  const source = sources.value?.find(({ retired }) => !retired)
  switch (next.value) {
    case 'name':
      return router.replace({ name: 'arrange', params, query: { open: 'header' } })
    case 'addresses': {
      const first = page.document && placeholdersOf(page.document)[0]
      if (first) return router.replace({ name: 'arrange', params, query: { open: first.row } })
      return document.getElementById('paste-line')?.focus()
    }
    case 'publish':
      return (publishing.value = true)
    case 'source':
      return router.push({ name: 'sources', params })
    case 'visit':
      return source && router.push({ name: 'source', params: { ...params, source: source.id } })
  }
}
</script>

<template>
  <section v-if="shown && next" class="first" :aria-label="$t('firsthour.whatComesNext')">
    <ol class="steps" :aria-label="$t('firsthour.done', { n: done?.size ?? 0, of: steps.length })">
      <li v-for="each in steps" :key="each.step" :class="{ done: each.done, now: each.step === next }">
        <component :is="each.done ? Check : Circle" aria-hidden="true" />
        <span class="visually-hidden"
          >{{ WORDS[each.step]() }}{{ each.done ? ` ${$t('firsthour.isDone')}` : '' }}</span
        >
      </li>
    </ol>
    <button class="as-link next" type="button" @click="lead">{{ WORDS[next]() }}</button>
    <Button
      size="small"
      text
      severity="secondary"
      :label="$t('firsthour.putAway')"
      @click="putAway = [...putAway, pageId]"
    />
  </section>
</template>

<style scoped>
.first {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 4px 14px;
  margin: 0 0 12px var(--gutter);
}
.steps {
  display: flex;
  gap: 4px;
  list-style: none;
  margin: 0;
  padding: 0;
}
.steps svg {
  display: block;
  width: 14px;
  height: 14px;
  color: var(--line-strong);
}
.done svg,
.now svg {
  color: var(--accent);
}
.next {
  font-weight: 600;
}
@media (max-width: 720px) {
  .first {
    margin-left: 8px;
  }
}
</style>
