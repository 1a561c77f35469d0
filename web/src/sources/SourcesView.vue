<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, take, type Place } from '@/api/client'
import { readingsQuery, sourcesQuery } from '@/api/queries'
import { sameName } from '@/fields/sameName'
import WrongText from '@/fields/WrongText.vue'
import { usePageStore } from '@/page/pageStore'
import { sourceColour } from '@/sourceColours'
import CoverageBar from './CoverageBar.vue'
import PlaceFields from './PlaceFields.vue'
import SourceRow from './SourceRow.vue'
import UnlistedSources from './UnlistedSources.vue'

const route = useRoute()
const page = usePageStore()
const pageId = computed(() => String(route.params.page))
const client = useQueryClient()
const { data: sources, error, isPending } = useQuery(sourcesQuery(pageId))
const { data: readings } = useQuery(readingsQuery(pageId, '28d-today'))

const name = ref('')
const nothing = (): Place => ({ kind: 'profile', medium: '', profiles: [], names: [], networks: [] })
const place = ref(nothing())
const add = useMutation({
  mutationFn: (given: { name: string; place: Place }) =>
    take(
      api.POST('/api/pages/{page}/sources', {
        params: { path: { page: pageId.value } },
        body: given,
      }),
    ),
  onSuccess: (_, given) => {
    // What was typed in the meantime stays.
    if (name.value === given.name) {
      name.value = ''
      place.value = nothing()
    }
    return client.invalidateQueries({ queryKey: ['sources', pageId.value] })
  },
})

const twin = computed(() => sameName(name.value, sources.value))
const coloured = computed(() =>
  (sources.value ?? []).map((source, i) => ({ source, colour: sourceColour(i) })),
)
const inUse = computed(() => coloured.value.filter(({ source }) => !source.retired))
const retired = computed(() => coloured.value.filter(({ source }) => source.retired))
const published = computed(() => (page.state?.liveEdition ?? 0) > 0)
</script>

<template>
  <div class="view">
    <div class="view-head">
      <div>
        <h1>{{ $t('sources.sources') }}</h1>
        <p>
          {{ $t('sources.eachPlaceGetsAnAddress') }}
        </p>
      </div>
    </div>
    <p v-if="!published && page.loaded" class="notice gap">
      {{ $t('sources.thePageIsNotPublished') }}
    </p>
    <p v-if="error" class="notice gap" role="alert">{{ error.message }}</p>

    <CoverageBar v-if="readings" class="gap" :coverage="readings.coverage" />
    <table v-if="inUse.length" class="sources">
      <thead>
        <tr>
          <th scope="col">{{ $t('sources.source') }}</th>
          <th scope="col">{{ $t('sources.addressToPaste') }}</th>
          <th scope="col" class="number">{{ $t('sources.visits28Days') }}</th>
          <th scope="col" class="number">{{ $t('sources.pressedSomething') }}</th>
          <th scope="col">{{ $t('sources.seen') }}</th>
          <th scope="col">
            <span class="visually-hidden">{{ $t('sources.change') }}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        <SourceRow
          v-for="{ source, colour } in inUse"
          :key="source.id"
          :page="pageId"
          :source="source"
          :others="sources"
          :colour="colour"
          :figures="readings?.bySource[source.id]"
        />
      </tbody>
    </table>
    <p v-else-if="!isPending && !error" class="empty">
      {{ $t('sources.noSourcesYetName') }}
    </p>

    <form class="add" @submit.prevent="add.mutate({ name, place })">
      <div class="field">
        <label for="source-name">{{ $t('sources.anotherPlace') }}</label>
        <InputText
          id="source-name"
          v-model="name"
          :placeholder="$t('sources.aProfileACard')"
          maxlength="60"
          autocomplete="off"
          aria-describedby="source-wrong"
        />
      </div>
      <PlaceFields v-model="place" />
      <Button
        type="submit"
        :label="$t('sources.addSource')"
        :loading="add.isPending.value"
        :disabled="!name.trim()"
      />
      <p v-if="twin" class="twin small" role="status">
        {{
          twin.retired
            ? $t('sources.thereIsARetiredSource', { name: twin.name })
            : $t('sources.thereIsASourceCalled', { name: twin.name })
        }}
      </p>
      <WrongText id="source-wrong" :text="add.error.value?.message" />
    </form>

    <UnlistedSources v-if="readings" :page="pageId" :view="readings" />

    <details v-if="retired.length" class="retired">
      <summary>{{ $t('sources.retired', { n: retired.length }) }}</summary>
      <table class="sources">
        <thead class="visually-hidden">
          <tr>
            <th>{{ $t('sources.source') }}</th>
            <th>{{ $t('sources.address') }}</th>
            <th>{{ $t('sources.visits') }}</th>
            <th>{{ $t('sources.pressedSomething') }}</th>
            <th>{{ $t('sources.seen') }}</th>
            <th>{{ $t('sources.change') }}</th>
          </tr>
        </thead>
        <tbody>
          <SourceRow
            v-for="{ source, colour } in retired"
            :key="source.id"
            :page="pageId"
            :source="source"
            :others="sources"
            :colour="colour"
            :figures="readings?.bySource[source.id]"
          />
        </tbody>
      </table>
    </details>
  </div>
</template>

<style scoped>
.gap {
  margin-bottom: 16px;
}
.sources {
  width: 100%;
  border-collapse: collapse;
  background: var(--surface);
  border: 1px solid var(--line);
}
.sources th {
  text-align: left;
  font-weight: 600;
  font-size: 0.85rem;
  color: var(--ink-soft);
  padding: 9px 14px;
  border-bottom: 1px solid var(--line-strong);
}
.sources th.number {
  text-align: right;
}
.add {
  display: flex;
  align-items: end;
  flex-wrap: wrap;
  gap: 10px;
  margin-top: 20px;
}
.add .wrong,
.add .twin {
  width: 100%;
}
.add .wrong {
  color: var(--danger);
}
.twin {
  color: var(--amber);
}
.empty {
  padding: 32px;
  border: 1px dashed var(--line-strong);
  color: var(--ink-soft);
  text-align: center;
}
.retired {
  margin-top: 28px;
}
.retired summary {
  cursor: pointer;
  color: var(--ink-soft);
  margin-bottom: 8px;
}
@media (max-width: 720px) {
  .sources thead {
    display: none;
  }
  .sources,
  .sources tbody {
    display: block;
  }
}
</style>
