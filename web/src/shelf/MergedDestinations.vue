<script setup lang="ts">
import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, take, type DestinationDetails, type KeptDestination } from '@/api/client'
import { destinationsQuery } from '@/api/queries'
import WrongText from '@/fields/WrongText.vue'
import { readable } from '@/kinds/readable'

/** What was merged with a destination, and merging it with another that then stands for it. */
const props = defineProps<{ destination: DestinationDetails; follows: string }>()
const client = useQueryClient()
const router = useRouter()
const route = useRoute()

const choosing = ref(false)
const search = ref('')
const found = useInfiniteQuery({
  ...destinationsQuery(refDebounced(search, 300)),
  enabled: choosing,
})
/** The first few are enough to choose from: more is found by typing. */
const others = computed(() =>
  (found.data.value?.pages[0]?.items ?? []).filter(({ id }) => id !== props.destination.id).slice(0, 6),
)
const chosen = ref<KeptDestination>()

const merge = useMutation({
  mutationFn: (into: string) =>
    take(
      api.PUT('/api/destinations/{destination}/merged', {
        params: { path: { destination: props.destination.id } },
        body: { into },
      }),
    ),
  onSuccess: async (kept) => {
    await router.replace({ name: 'destinations', params: { destination: kept.id }, query: route.query })
    await client.invalidateQueries()
  },
})
const apart = useMutation({
  mutationFn: (merged: string) =>
    take(api.DELETE('/api/merged-destinations/{merged}', { params: { path: { merged } } })),
  onSuccess: () => client.invalidateQueries(),
})

function leave() {
  choosing.value = false
  chosen.value = undefined
  search.value = ''
  merge.reset()
}
</script>

<template>
  <section aria-labelledby="merged-title">
    <h3 id="merged-title">{{ $t('shelf.merged') }}</h3>
    <ul v-if="destination.merged.length">
      <li v-for="each in destination.merged" :key="each.id">
        <span>
          {{ each.title || readable(each.address) }}
          <span class="soft small">{{ readable(each.address) }}</span>
        </span>
        <Button
          size="small"
          severity="secondary"
          text
          :label="$t('shelf.takeApart')"
          :aria-label="$t('shelf.takeApartNamed', { name: each.title || readable(each.address) })"
          :loading="apart.isPending.value && apart.variables.value === each.id"
          @click="apart.mutate(each.id)"
        />
      </li>
    </ul>
    <WrongText :text="apart.error.value?.message" />
    <Button
      v-if="!choosing"
      size="small"
      severity="secondary"
      :label="$t('shelf.mergeWith')"
      @click="choosing = true"
    />
    <template v-else>
      <template v-if="!chosen">
        <p class="soft">{{ $t('shelf.mergeSays') }}</p>
        <InputText
          v-model="search"
          type="search"
          fluid
          :placeholder="$t('shelf.findDestination')"
          :aria-label="$t('shelf.mergeInto')"
        />
        <ul :aria-label="$t('shelf.mergeInto')">
          <li v-for="each in others" :key="each.id">
            <button class="as-link" type="button" @click="chosen = each">
              {{ each.details.title || readable(each.details.address) }}
            </button>
            <span class="soft small">{{ readable(each.details.address) }}</span>
          </li>
        </ul>
      </template>
      <div v-else class="sure" role="status">
        <p>{{ $t('shelf.leadsThereInstead', { to: readable(chosen.details.address) }) }} {{ follows }}</p>
        <Button
          size="small"
          :label="$t('shelf.merge')"
          :loading="merge.isPending.value"
          @click="merge.mutate(chosen.id)"
        />
      </div>
      <WrongText :text="merge.error.value?.message" />
      <Button size="small" severity="secondary" text :label="$t('common.cancel')" @click="leave" />
    </template>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 8px;
  justify-items: start;
}
h3,
p {
  margin: 0;
}
h3 {
  font-size: 0.95rem;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  width: 100%;
}
li {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 2px 10px;
  padding: 4px 0;
  overflow-wrap: anywhere;
}
li > .p-button {
  margin-left: auto;
}
.sure {
  display: grid;
  gap: 8px;
  justify-items: start;
  padding: 10px 12px;
  border: 1px solid var(--amber);
  border-radius: 6px;
  background: var(--amber-soft);
}
</style>
