<script setup lang="ts">
import { useInfiniteQuery } from '@tanstack/vue-query'
import { watchDebounced } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Skeleton from 'primevue/skeleton'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { destinationsQuery } from '@/api/queries'
import { readable } from '@/kinds/readable'
import { useInAddress } from '@/shell/useInAddress'
import DestinationPanel from './DestinationPanel.vue'
import LinkFileDialog from './LinkFileDialog.vue'
import ManyDialog from './ManyDialog.vue'
import ShelfParts from './ShelfParts.vue'

/** The addresses that pages and short links lead to, each kept once: changed here, all follow. */
const route = useRoute()
const router = useRouter()
const kept = useInAddress('find', '')
const search = ref(kept.value)
watchDebounced(search, (text) => (kept.value = text), { debounce: 300 })
const {
  data: parts, error, hasNextPage, isFetchingNextPage, fetchNextPage,
} = useInfiniteQuery(destinationsQuery(kept)) // prettier-ignore
const destinations = computed(() => parts.value?.pages.flatMap(({ items }) => items))
const fromFile = ref(false)
const many = ref(false)
const opened = computed(() => String(route.params.destination || ''))
const open = (destination?: string) =>
  router.push({ name: 'destinations', params: { destination }, query: route.query })
</script>

<template>
  <div class="view">
    <div class="view-head">
      <div>
        <h1>{{ $t('shelf.destinations') }}</h1>
        <p>{{ $t('shelf.destinationsSay') }}</p>
        <ShelfParts />
      </div>
      <div class="tools">
        <Button size="small" severity="secondary" :label="$t('shelf.changeMany')" @click="many = true" />
        <Button size="small" severity="secondary" :label="$t('shelf.fromAFile')" @click="fromFile = true" />
        <a href="/api/destinations.csv" download>{{ $t('shelf.asTable') }}</a>
        <a href="/api/bookmarks.html" download>{{ $t('shelf.asBookmarks') }}</a>
      </div>
    </div>
    <LinkFileDialog v-model="fromFile" />
    <ManyDialog v-model="many" :search="kept" />
    <p v-if="error" class="notice">{{ error.message }}</p>
    <div class="bench" :class="{ two: opened }">
      <div class="shelf">
        <InputText
          v-model="search"
          type="search"
          class="find"
          :placeholder="$t('shelf.findDestination')"
          :aria-label="$t('shelf.findDestination')"
        />
        <Skeleton v-if="!destinations && !error" height="200px" />
        <ul v-else class="kept" :aria-label="$t('shelf.destinations')">
          <li v-for="each in destinations" :key="each.id" :class="{ opened: each.id === opened }">
            <img
              v-if="each.details.picture"
              class="picture"
              :src="`/media/${each.details.picture.sizes?.[0]?.media ?? each.details.picture.media}`"
              width="44"
              height="44"
              loading="lazy"
              alt=""
            />
            <RouterLink
              :to="{ name: 'destinations', params: { destination: each.id }, query: $route.query }"
              :aria-current="each.id === opened ? 'true' : undefined"
              >{{ each.details.title || readable(each.details.address) }}</RouterLink
            >
            <p class="soft">{{ readable(each.details.address) }}</p>
            <p
              v-if="each.health && each.health.verdict !== 'fine'"
              class="small"
              :class="{ amber: each.health.verdict !== 'unsure' }"
            >
              {{ each.health.says }}
            </p>
            <p v-if="each.details.labels.length" class="labels">
              <span v-for="label in each.details.labels" :key="label" class="label">{{ label }}</span>
            </p>
          </li>
        </ul>
        <p v-if="destinations?.length === 0" class="soft">
          {{ kept ? $t('shelf.noneFound') : $t('shelf.noDestinationsYet') }}
        </p>
        <Button
          v-if="hasNextPage"
          size="small"
          severity="secondary"
          class="more"
          :label="$t('common.showMore')"
          :loading="isFetchingNextPage"
          @click="fetchNextPage()"
        />
      </div>
      <DestinationPanel v-if="opened" :id="opened" :key="opened" @close="open()" />
    </div>
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 16px;
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
  gap: 12px;
  min-width: 0;
  justify-items: start;
}
.find {
  width: min(100%, 24rem);
}
.kept {
  list-style: none;
  margin: 0;
  padding: 0;
  width: 100%;
}
.kept li {
  padding: 10px 12px;
  border-top: 1px solid var(--line);
  overflow-wrap: anywhere;
}
.kept .picture {
  float: left;
  margin-right: 12px;
  border-radius: 4px;
  object-fit: cover;
}
.kept li.opened {
  background: var(--surface);
}
.kept a {
  font-weight: 600;
  color: inherit;
}
.kept p {
  margin: 2px 0 0;
}
.amber {
  color: var(--amber);
}
.labels {
  display: flex;
  gap: 6px;
}
.label {
  padding: 0 10px;
  border: 1px solid var(--line-strong);
  border-radius: 10px;
  font-size: 0.8rem;
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
