<script setup lang="ts">
import { useInfiniteQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Skeleton from 'primevue/skeleton'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { editionsQuery } from '@/api/queries'
import { formatsOf } from '@/i18n'
import { usePageStore } from '@/page/pageStore'
import { useSession } from '@/session'
import { useInAddress } from '@/shell/useInAddress'
import EditionComparison from './EditionComparison.vue'

/** Every published state of the page, what each changed, and any of them beside another. */
const route = useRoute()
const page = usePageStore()
const session = useSession()
const pageId = computed(() => String(route.params.page))
const {
  data: parts, error, hasNextPage, isFetchingNextPage, fetchNextPage,
} = useInfiniteQuery(editionsQuery(pageId, () => page.state?.liveEdition)) // prettier-ignore
const editions = computed(() => parts.value?.pages.flatMap(({ items }) => items))
const shown = useInAddress('edition', '')
const number = computed(() => Number(shown.value) || editions.value?.[0]?.number)

const time = (text: string) =>
  new Date(text).toLocaleString(formatsOf(), {
    day: 'numeric', month: 'short', year: 'numeric', hour: '2-digit', minute: '2-digit', timeZone: session.me?.zone,
  }) // prettier-ignore
</script>

<template>
  <div class="view">
    <div class="view-head">
      <div>
        <h1>{{ $t('editions.editions') }}</h1>
        <p>{{ $t('editions.each') }}</p>
      </div>
    </div>
    <p v-if="error" class="notice">{{ error.message }}</p>
    <p v-else-if="editions?.length === 0" class="soft">{{ $t('editions.none') }}</p>
    <div v-else class="sides">
      <ol class="list" :aria-label="$t('editions.editions')">
        <template v-if="!editions">
          <li v-for="n in 4" :key="n"><Skeleton height="70px" /></li>
        </template>
        <li v-for="each in editions" :key="each.number" :class="{ open: each.number === number }">
          <button type="button" :aria-pressed="each.number === number" @click="shown = String(each.number)">
            <strong>{{ $t('editions.edition', { n: each.number }) }}</strong>
            <span v-if="each.number === page.state?.liveEdition" class="live">{{ $t('editions.live') }}</span>
            <span class="soft small">{{
              each.by
                ? $t('editions.publishedBy', { time: time(each.publishedAt), who: each.by })
                : time(each.publishedAt)
            }}</span>
          </button>
          <ul v-if="each.changes?.length" class="small">
            <li v-for="(change, i) in each.changes.slice(0, 6)" :key="i">{{ change.sentence }}</li>
            <li v-if="each.changes.length > 6" class="soft">
              {{ $t('editions.andMore', each.changes.length - 6) }}
            </li>
          </ul>
        </li>
        <li v-if="hasNextPage">
          <Button
            size="small"
            severity="secondary"
            :label="$t('common.showMore')"
            :loading="isFetchingNextPage"
            @click="fetchNextPage()"
          />
        </li>
      </ol>
      <EditionComparison
        v-if="number && editions"
        :key="number"
        :page-id="pageId"
        :number="number"
        :latest="editions[0]?.number ?? number"
      />
    </div>
  </div>
</template>

<style scoped>
.sides {
  display: grid;
  grid-template-columns: minmax(260px, 22rem) minmax(0, 1fr);
  gap: 28px;
  align-items: start;
}
.list {
  list-style: none;
  margin: 0;
  padding: 0;
}
.list > li {
  border-top: 1px solid var(--line);
  padding: 10px 12px;
}
.list > li.open {
  background: var(--surface);
  box-shadow: inset 3px 0 0 var(--accent);
}
.list button[aria-pressed] {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  align-items: baseline;
  width: 100%;
  padding: 4px 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.live {
  color: var(--accent);
  font-weight: 600;
  font-size: 0.87rem;
}
.list .soft.small {
  flex-basis: 100%;
}
.list ul {
  margin: 4px 0 0;
  padding-left: 18px;
}
@media (max-width: 900px) {
  .sides {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
