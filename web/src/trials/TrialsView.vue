<script setup lang="ts">
import { ArrowLeft } from '@lucide/vue'
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Skeleton from 'primevue/skeleton'
import { useConfirm } from 'primevue/useconfirm'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { api, take, type NewTrial as Wanted, type TrialView } from '@/api/client'
import { trialsQuery } from '@/api/queries'
import { t } from '@/i18n'
import { usePageStore } from '@/page/pageStore'
import { useSession } from '@/session'
import { useUndo } from '@/shell/useUndo'
import { useMay } from '@/team/useMay'
import NewTrial from './NewTrial.vue'
import TrialCard from './TrialCard.vue'
import { dayBegins } from './trialWords'

/** What is tried on a page, what came of it, and another to begin. */
const route = useRoute()
const page = usePageStore()
const zone = useSession().me?.zone ?? 'UTC'
const may = useMay()
const offerUndo = useUndo()
const confirm = useConfirm()
const queries = useQueryClient()
const pageId = computed(() => String(route.params.page))
const { data: trials, error } = useQuery(trialsQuery(pageId))
const running = computed(() => trials.value?.find(({ runs }) => runs))

function titleOf({ kind, title: now }: TrialView) {
  const title = now || t('trials.aButtonThatIsGone')
  if (kind === 'title') return t('trials.ofTitle', { title })
  if (kind === 'picture') return t('trials.ofPicture', { title })
  return kind === 'place' ? t('trials.ofPlace', { title }) : t('trials.ofOrder')
}

const kept = (list: TrialView[]) => {
  queries.setQueryData(['trials', pageId.value], list)
  void queries.invalidateQueries({ queryKey: ['readings'] })
  // It is an edition of its own, and a variant that is put in place changes the working copy.
  return page.refresh()
}
const begin = useMutation({
  mutationFn: (wanted: Wanted) =>
    take(api.POST('/api/pages/{page}/trials', { params: { path: { page: pageId.value } }, body: wanted })),
  onSuccess: kept,
})
const choose = useMutation({
  mutationFn: ({ trial, variant }: { trial: string; variant: number }) =>
    take(
      api.POST('/api/pages/{page}/trials/{trial}/choice', {
        params: { path: { page: pageId.value, trial } },
        body: { variant },
      }),
    ),
  onSuccess: async (list, { trial }) => {
    await kept(list)
    offerUndo(t('trials.isInPlace'), () => undoChoice(trial))
  },
})
const undoChoice = async (trial: string) =>
  kept(
    await take(
      api.DELETE('/api/pages/{page}/trials/{trial}/choice', {
        params: { path: { page: pageId.value, trial } },
      }),
    ),
  )
const askToChoose = (trial: string, variant: number) =>
  confirm.require({
    header: t('trials.putInPlaceAsked'),
    message: t('trials.putInPlaceSays'),
    acceptProps: { label: t('trials.putInPlace') },
    rejectProps: { label: t('common.cancel'), severity: 'secondary', text: true },
    accept: () => choose.mutate({ trial, variant }),
  })
const end = useMutation({
  mutationFn: (trial: string) =>
    take(api.DELETE('/api/pages/{page}/trials/{trial}', { params: { path: { page: pageId.value, trial } } })),
  onSuccess: kept,
})
const busy = computed(() => choose.isPending.value || end.isPending.value)
const wrong = computed(() => choose.error.value?.message ?? end.error.value?.message)
</script>

<template>
  <div class="view">
    <RouterLink class="back" :to="{ name: 'readings', params: { page: pageId } }">
      <ArrowLeft aria-hidden="true" /> {{ $t('readings.allReadings') }}
    </RouterLink>
    <div class="view-head">
      <div>
        <h1>{{ $t('trials.trials') }}</h1>
        <p>{{ $t('trials.intro', { time: dayBegins(zone), zone }) }}</p>
      </div>
    </div>
    <p v-if="wrong" class="notice" role="alert">{{ wrong }}</p>
    <p v-if="error && !trials" class="notice" role="alert">{{ error.message }}</p>
    <div v-else-if="!trials" aria-busy="true"><Skeleton height="200px" /></div>
    <template v-else>
      <section v-if="!running && may.edit.value" aria-labelledby="new-title" class="begin">
        <h2 id="new-title">{{ $t('trials.beginOne') }}</h2>
        <NewTrial
          :page-id="pageId"
          :busy="begin.isPending.value"
          :wrong="begin.error.value?.message"
          @begin="begin.mutate($event)"
        />
      </section>
      <TrialCard
        v-for="trial in trials"
        :key="trial.id"
        :trial="trial"
        :title="titleOf(trial)"
        :busy="busy || !may.edit.value"
        @choose="askToChoose(trial.id, $event)"
        @end="end.mutate(trial.id)"
      />
    </template>
  </div>
</template>

<style scoped>
.begin {
  margin-bottom: 28px;
}
.begin h2 {
  margin-bottom: 10px;
}
</style>
