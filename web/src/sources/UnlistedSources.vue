<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { useToast } from 'primevue/usetoast'
import { api, take, type ReadingsView } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { count } from '@/figures'
import { t } from '@/i18n'
import { UNLISTED, type PlaceKind } from './places'

/** Places that visits come from and that are not on the list; each becomes a source at one press. */
const props = defineProps<{ page: string; view: ReadingsView }>()
const client = useQueryClient()
const toast = useToast()

const kindFor = (known: string): PlaceKind => (known === 'campaign' ? 'letter' : 'profile')

const adopt = useMutation({
  mutationFn: (row: ReadingsView['unlisted'][number]) =>
    take(
      api.POST('/api/pages/{page}/sources', {
        params: { path: { page: props.page } },
        body: {
          name: row.name.replaceAll('_', ' ').slice(0, 60),
          place: { kind: kindFor(row.known), medium: '', profiles: [], names: [], networks: [] },
          adopts: row.key,
        },
      }),
    ),
  onSuccess: async (_, row) => {
    await client.invalidateQueries({ queryKey: ['sources', props.page] })
    await client.invalidateQueries({ queryKey: ['readings', props.page] })
    toast.add({
      severity: 'success',
      summary: t('sources.isASourceNow', { name: row.name }),
      detail: t('sources.theVisitsItBrought'),
      life: 4000,
    })
  },
})
</script>

<template>
  <section v-if="view.unlisted.length" class="unlisted" aria-labelledby="unlisted-title">
    <h2 id="unlisted-title">{{ $t('sources.alsoComingFrom') }}</h2>
    <p class="soft small">{{ $t('sources.notOnYourListMade') }}</p>
    <ul>
      <li v-for="row in view.unlisted" :key="row.key">
        <span class="name">{{ row.known === 'others' ? $t('sources.otherPlaces') : row.name }}</span>
        <span class="soft by">{{ UNLISTED[row.known] }}</span>
        <span class="number"
          >{{ count(row.figures.visits) }} <span class="soft">{{ $t('sources.in28Days') }}</span></span
        >
        <Button
          v-if="row.known !== 'several' && row.known !== 'others'"
          size="small"
          severity="secondary"
          :label="$t('sources.makeItASource')"
          :aria-label="$t('sources.makeASource', { name: row.name })"
          :loading="adopt.isPending.value && adopt.variables.value?.key === row.key"
          @click="adopt.mutate(row)"
        />
      </li>
    </ul>
    <WrongText :text="adopt.error.value?.message" />
  </section>
</template>

<style scoped>
.unlisted {
  margin-top: 28px;
  display: grid;
  gap: 6px;
}
ul {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
  border-top: 1px solid var(--line);
}
li {
  display: grid;
  grid-template-columns: minmax(10rem, 16rem) 1fr auto 10rem;
  align-items: center;
  gap: 4px 16px;
  min-height: 46px;
  padding: 6px 14px;
  border-bottom: 1px solid var(--line);
}
.name {
  font-weight: 600;
  overflow-wrap: anywhere;
}
.number {
  font-weight: 600;
  text-align: right;
}
.number .soft {
  font-weight: 400;
}
.wrong {
  color: var(--danger);
}
@media (max-width: 720px) {
  li {
    grid-template-columns: 1fr auto;
    padding: 8px 0;
  }
  .by {
    grid-column: 1 / -1;
    order: 1;
  }
}
</style>
