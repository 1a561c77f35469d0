<script setup lang="ts">
import { Download, ListPlus } from '@lucide/vue'
import { useInfiniteQuery } from '@tanstack/vue-query'
import { watchDebounced } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { shortLinksQuery } from '@/api/queries'
import { useSession } from '@/session'
import { useInAddress } from '@/shell/useInAddress'
import CampaignBuilder from './CampaignBuilder.vue'
import LinkListDialog from './LinkListDialog.vue'
import NewShortLink from './NewShortLink.vue'
import ShelfParts from './ShelfParts.vue'
import ShortLinkRows from './ShortLinkRows.vue'
import ShortLinkPanel from './ShortLinkPanel.vue'
import { bare, labelsOf, matching } from './shortLinks'

/** What all pages share: short links, and addresses with campaign tags. */
const route = useRoute()
const router = useRouter()
const session = useSession()
const { data: parts, hasNextPage, isFetchingNextPage, fetchNextPage } = useInfiniteQuery(shortLinksQuery())
const links = computed(() => parts.value?.pages.flatMap(({ items }) => items))

const opened = computed(() => links.value?.find(({ id }) => id === route.params.link))
const open = (link?: string) => router.push({ name: 'shelf', params: { link }, query: route.query })

const kept = useInAddress('find', '')
const search = ref(kept.value)
watchDebounced(search, (text) => (kept.value = text), { debounce: 300 })
const keptLabel = useInAddress('label', '')
const label = computed({
  get: () => keptLabel.value || undefined,
  set: (chosen) => (keptLabel.value = chosen ?? ''),
})
const labels = computed(() => labelsOf(links.value ?? []))
const found = computed(() => matching(links.value ?? [], label.value, search.value))

// Whoever looks for one looks among all of them.
const looking = computed(() => Boolean(search.value || label.value || (route.params.link && !opened.value)))
watch(
  [looking, isFetchingNextPage],
  () => {
    if (looking.value && hasNextPage.value && !isFetchingNextPage.value) void fetchNextPage()
  },
  { immediate: true },
)
const listing = ref(false)
const making = useTemplateRef('making')
const host = computed(() => bare(session.me?.pageOrigin ?? ''))
</script>

<template>
  <div class="view">
    <div class="view-head">
      <div>
        <h1>{{ $t('shelf.shelf') }}</h1>
        <p>
          {{ $t('shelf.addressesAllYourPagesShare') }}
        </p>
        <ShelfParts />
      </div>
      <div class="acts">
        <Button size="small" severity="secondary" @click="listing = true">
          <ListPlus aria-hidden="true" /> {{ $t('shelf.fromAList') }}
        </Button>
        <a v-if="links?.length" class="save" href="/api/link-list" download="short-links.csv">
          <Download aria-hidden="true" /> {{ $t('shelf.allAsAList') }}
        </a>
      </div>
    </div>
    <div class="bench" :class="{ two: opened }">
      <div class="shelf">
        <NewShortLink ref="making" :host="host" @made="open($event.id)" />
        <div v-if="links && links.length > 4" class="find">
          <InputText
            v-model="search"
            type="search"
            :placeholder="$t('shelf.find')"
            :aria-label="$t('shelf.findAShortLink')"
          />
          <div v-if="labels.length" class="labels" role="group" :aria-label="$t('shelf.labels')">
            <button
              v-for="each in labels"
              :key="each"
              type="button"
              :aria-pressed="label === each"
              @click="label = label === each ? undefined : each"
            >
              {{ each }}
            </button>
          </div>
        </div>
        <ShortLinkRows v-if="found.length" :links="found" :opened="opened?.id" />
        <p v-if="hasNextPage" class="soft more-links">
          {{ $t('shelf.theseAreTheLatest', { n: links?.length }) }}
          <Button
            :label="$t('common.showMore')"
            severity="secondary"
            size="small"
            :loading="isFetchingNextPage"
            @click="fetchNextPage()"
          />
        </p>
        <p v-if="!found.length && links?.length && !hasNextPage" class="soft none">
          {{ $t('shelf.noneOfYourShortLinks', { n: links.length }) }}
        </p>
        <p v-if="links && !links.length" class="soft none">
          {{ $t('shelf.noShortLinksYetPaste') }}
        </p>
        <CampaignBuilder @shorten="making?.begin($event)" />
      </div>
      <ShortLinkPanel v-if="opened" :link="opened" @close="open()" />
    </div>
    <LinkListDialog v-model="listing" />
  </div>
</template>

<style scoped>
.acts {
  display: flex;
  gap: 8px;
}
.acts svg {
  width: 15px;
  height: 15px;
}
.save {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  padding: 4px 12px;
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  background: var(--surface);
  color: var(--ink);
  text-decoration: none;
  font-size: 0.875rem;
}
.bench {
  display: grid;
  gap: 24px;
  align-items: start;
}
.bench.two {
  grid-template-columns: minmax(0, 1fr) minmax(380px, 440px);
}
.shelf {
  display: grid;
  gap: 16px;
  min-width: 0;
}
.shelf > :last-child {
  margin-top: 24px;
}
.find {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 16px;
  align-items: center;
}
.labels {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.labels button {
  padding: 2px 12px;
  border: 1px solid var(--line-strong);
  border-radius: 12px;
  background: transparent;
  color: var(--ink);
  cursor: pointer;
}
.labels button[aria-pressed='true'] {
  background: var(--accent);
  border-color: var(--accent);
  color: var(--surface);
}
.none {
  padding: 14px 0;
}
.more-links {
  display: flex;
  align-items: center;
  gap: 12px;
}
@media (max-width: 1000px) {
  .bench.two {
    grid-template-columns: 1fr;
  }
  .bench.two .shelf {
    display: none;
  }
}
</style>
