<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { useMediaQuery } from '@vueuse/core'
import Skeleton from 'primevue/skeleton'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, take, type StarterChoice } from '@/api/client'
import { t } from '@/i18n'
import PageMiniature from '@/page/PageMiniature.vue'
import { usePageStore } from '@/page/pageStore'

/** Ready-made pages with the creator's own name on them. Taking one can be undone. */
const page = usePageStore()
const route = useRoute()
const router = useRouter()
const id = computed(() => String(route.params.page))
const { data: starters, error } = useQuery({
  queryKey: ['starters', id],
  queryFn: () => take(api.GET('/api/pages/{page}/starters', { params: { path: { page: id.value } } })),
  staleTime: 60_000,
})
const onPhone = useMediaQuery('(max-width: 720px)')
const empty = computed(() => page.document?.blocks.length === 0)

async function begin(starter: StarterChoice) {
  page.change(t('starters.beginFrom', { trade: starter.trade }), (draft) => {
    const made = JSON.parse(JSON.stringify(starter.document)) as typeof starter.document
    // What is already theirs stays: their line, their picture, where else they are, the end, the language.
    const { line, picture, about } = draft.header
    const { icons, footer, language, tagging } = draft
    Object.assign(draft, made, { language, tagging })
    if (icons.items.length > 0) draft.icons = icons
    if (footer.text || footer.links.length > 0) draft.footer = footer
    draft.header.line = line || made.header.line
    draft.header.about = about
    draft.header.picture = picture
  })
  await router.push({ name: 'arrange', params: { page: id.value } })
}
</script>

<template>
  <div class="view">
    <div class="view-head">
      <div>
        <h1>{{ $t('starters.beginFromAReadyMade') }}</h1>
        <p>
          {{ $t('starters.takeTheNearest') }}
          <template v-if="!empty">{{ $t('starters.itTakesThePlace') }}</template>
        </p>
      </div>
      <RouterLink class="empty" :to="{ name: 'arrange', params: { page: id } }">{{
        empty ? $t('starters.beginWithAnEmptyPage') : $t('starters.backToArrange')
      }}</RouterLink>
    </div>
    <p v-if="error" class="notice">{{ error.message }}</p>
    <ul class="starters">
      <template v-if="!starters">
        <li v-for="n in 8" :key="n"><Skeleton height="330px" /></li>
      </template>
      <li v-for="starter in starters" :key="starter.id">
        <button type="button" :disabled="!page.loaded" @click="begin(starter)">
          <PageMiniature
            class="small"
            :strip="starter.strip"
            :document="starter.document"
            :scale="onPhone ? 0.485 : 0.62"
          />
          <span class="trade">{{ starter.trade }}</span>
          <span class="description">{{ starter.description }}</span>
        </button>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.empty {
  font-weight: 600;
}
.starters {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(223px, 1fr));
  gap: 26px 24px;
}
.starters button {
  display: grid;
  gap: 4px;
  width: 100%;
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink);
  text-align: left;
  cursor: pointer;
}
.small {
  width: 225px;
  max-width: 100%;
  height: 400px;
  border: 1px solid var(--line-strong);
  border-radius: 12px;
  margin-bottom: 6px;
}
button:hover .small {
  outline: 2px solid var(--accent);
  outline-offset: 2px;
}
@media (max-width: 720px) {
  .starters {
    grid-template-columns: repeat(2, minmax(0, 1fr));
    gap: 20px 14px;
  }
  .small {
    width: 100%;
    height: 290px;
  }
}
.trade {
  font: 650 1.1rem/1.2 var(--font-head);
}
.description {
  color: var(--ink-soft);
}
</style>
