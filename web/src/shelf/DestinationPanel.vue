<script setup lang="ts">
import { X } from '@lucide/vue'
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { ApiError, api, take, type KeptDestination } from '@/api/client'
import { destinationQuery, workspaceQuery } from '@/api/queries'
import { momentWords } from '@/arrange/stateWords'
import FieldText from '@/fields/FieldText.vue'
import KeepRow from '@/fields/KeepRow.vue'
import ToolButton from '@/fields/ToolButton.vue'
import WrongText from '@/fields/WrongText.vue'
import FieldPicture from '@/pictures/FieldPicture.vue'
import { copyJson, same } from '@/saving/json'
import { readable } from '@/kinds/readable'
import { t } from '@/i18n'
import DestinationFigures from './DestinationFigures.vue'
import ButtonOfDestination from './ButtonOfDestination.vue'
import MergedDestinations from './MergedDestinations.vue'
import SwapRows from './SwapRows.vue'

/** One destination: where it leads, all that leads to it, and where it led before. */
const props = defineProps<{ id: string }>()
const emit = defineEmits<{ close: [] }>()
const client = useQueryClient()
const { data: found, error } = useQuery(destinationQuery(() => props.id))
const { data: workspace } = useQuery(workspaceQuery())

const draft = ref<KeptDestination['details']>()
/** What the draft was begun from; what came from elsewhere meanwhile does not go over it. */
const begun = ref<KeptDestination>()
watch(
  found,
  (now) => {
    if (!now || (begun.value && changed.value)) return
    begun.value = now
    draft.value = copyJson(now.details)
  },
  { immediate: true },
)
const changed = computed(() => !!draft.value && !same(draft.value, begun.value?.details))
const elsewhere = computed({
  get: () => draft.value?.swaps ?? [],
  set: (swaps) => draft.value && (draft.value.swaps = swaps.length ? swaps : undefined),
})
const leadsElsewhere = computed(
  () =>
    draft.value?.address !== begun.value?.details.address ||
    !same(draft.value?.swaps ?? [], begun.value?.details.swaps ?? []),
)
/** What pages and short links that lead here are called. */
const names = computed(() =>
  Object.fromEntries(
    [...(found.value?.pages ?? []), ...(found.value?.shortLinks ?? [])].map(({ id, name }) => [id, name]),
  ),
)
const labels = (text: string) => text.split(',').map((label) => label.trim()).filter(Boolean) // prettier-ignore

/** What follows when the address is another, in words. */
const follows = computed(() => {
  const { pages = [], shortLinks = [] } = found.value ?? {}
  const places = pages.reduce((sum, page) => sum + page.places, 0)
  const said = [
    pages.length > 0 &&
      t('shelf.placesOnPages', {
        places: t('shelf.places', places),
        pages: t('shelf.pages', pages.length),
      }),
    shortLinks.length > 0 && t('shelf.links', shortLinks.length),
  ].filter(Boolean)
  return said.length ? t('shelf.thisChanges', { what: said.join(t('shelf.and')) }) : t('shelf.changesNothing')
})

const keep = useMutation({
  mutationFn: () => {
    const body = { revision: begun.value?.revision ?? 0, details: draft.value! }
    const params = { path: { destination: props.id } }
    return take(api.PUT('/api/destinations/{destination}', { params, body }))
  },
  onSuccess: (saved) => {
    begun.value = saved
    draft.value = copyJson(saved.details)
    client.setQueryData(destinationQuery(() => props.id).queryKey, saved)
    return client.invalidateQueries()
  },
  onError: (problem) => {
    // What was typed stays; it is compared with what it is now.
    if (problem instanceof ApiError && problem.status === 409)
      begun.value = (problem.body as { current: KeptDestination }).current
  },
})

function leave() {
  draft.value = begun.value && copyJson(begun.value.details)
  keep.reset()
}
</script>

<template>
  <aside class="panel" :aria-label="$t('shelf.destination')">
    <header>
      <h2>{{ begun?.details.title || readable(begun?.details.address ?? '') }}</h2>
      <ToolButton :icon="X" :label="$t('shelf.closeDestination')" @click="emit('close')" />
    </header>
    <p v-if="error" class="notice">{{ error.message }}</p>
    <p
      v-if="found?.health"
      class="small health"
      :class="{ amber: ['gone', 'failing'].includes(found.health.verdict) }"
    >
      {{ found.health.says }}
      <span class="soft">{{
        $t('shelf.askedAt', { at: momentWords(found.health.at, workspace?.zone ?? 'UTC') })
      }}</span>
    </p>
    <form v-if="draft && found" @submit.prevent="keep.mutate()">
      <FieldText v-model="draft.address" :label="$t('common.leadsTo')" inputmode="url" />
      <FieldText v-model="draft.title" :label="$t('common.title')" :maxlength="120" />
      <FieldText v-model="draft.note" :label="$t('shelf.note')" :lines="2" :maxlength="500" />
      <FieldText
        lazy
        :label="$t('shelf.labelsWithCommasBetween')"
        :model-value="draft.labels.join(', ')"
        @update:model-value="draft.labels = labels($event)"
      />
      <FieldPicture
        v-model="draft.picture"
        :label="$t('common.picture')"
        use="small"
        :aspect="1"
        :alt="$t('shelf.pictureOfDestination')"
      />
      <SwapRows v-model="elsewhere" />
      <div v-if="changed" class="keep" role="status">
        <p v-if="leadsElsewhere">{{ follows }}</p>
        <div class="line">
          <KeepRow small :busy="keep.isPending.value" @cancel="leave" />
        </div>
      </div>
      <WrongText :text="keep.error.value?.message" />
    </form>
    <p v-if="found"><ButtonOfDestination :destination="found" /></p>
    <section v-if="found" aria-labelledby="used-title">
      <h3 id="used-title">{{ $t('shelf.whereUsed') }}</h3>
      <p v-if="!found.pages.length && !found.shortLinks.length" class="soft">{{ $t('shelf.usedNowhere') }}</p>
      <ul>
        <li v-for="each in found.pages" :key="each.id">
          <RouterLink class="use" :to="{ name: 'arrange', params: { page: each.id } }">{{
            each.name
          }}</RouterLink>
          <span class="soft">{{ $t('shelf.places', each.places) }}</span>
        </li>
        <li v-for="each in found.shortLinks" :key="each.id">
          <RouterLink class="use" :to="{ name: 'shelf', params: { link: each.id } }">{{
            each.name
          }}</RouterLink>
          <span class="soft">{{ $t('shelf.aShortLink') }}</span>
        </li>
      </ul>
    </section>
    <DestinationFigures v-if="found" :id="id" :names="names" />
    <MergedDestinations v-if="found" :destination="found" :follows="follows" />
    <section v-if="found && found.history.length > 1" aria-labelledby="led-title">
      <h3 id="led-title">{{ $t('shelf.whereItLed') }}</h3>
      <ol>
        <li v-for="each in found.history" :key="each.since">
          {{ readable(each.address) }}
          <span class="soft small">{{
            $t('arrange.since', { from: momentWords(each.since, workspace?.zone ?? 'UTC') })
          }}</span>
        </li>
      </ol>
    </section>
  </aside>
</template>

<style scoped>
.panel,
form {
  display: grid;
  gap: 16px;
}
.panel {
  padding: 16px 18px 20px;
  border: 1px solid var(--line-strong);
  border-radius: 6px;
  background: var(--surface);
}
header {
  display: flex;
  justify-content: space-between;
  align-items: start;
  gap: 12px;
}
h2 {
  margin: 0;
  font-size: 1.1rem;
  overflow-wrap: anywhere;
}
h3 {
  margin: 0 0 6px;
  font-size: 0.95rem;
}
.keep {
  display: grid;
  gap: 8px;
  padding: 10px 12px;
  border: 1px solid var(--amber);
  border-radius: 6px;
  background: var(--amber-soft);
}
.keep p {
  margin: 0;
}
.line {
  display: flex;
  gap: 8px;
}
.health {
  margin: -8px 0 0;
}
.amber {
  color: var(--amber);
}
ul,
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
section li {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 2px 10px;
  padding: 4px 0;
  overflow-wrap: anywhere;
}
</style>
