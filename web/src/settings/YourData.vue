<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import Select from 'primevue/select'
import { useConfirm } from 'primevue/useconfirm'
import { computed, ref } from 'vue'
import FieldPassword from '@/account/FieldPassword.vue'
import { api, take } from '@/api/client'
import { workspaceQuery } from '@/api/queries'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { useSession } from '@/session'
import { useMay } from '@/team/useMay'
import TakeAlong from './TakeAlong.vue'

/** How long raw events are kept, and all data to take along or to erase. */
const session = useSession()
const client = useQueryClient()
const confirm = useConfirm()
const may = useMay()
const { data: workspace } = useQuery({ ...workspaceQuery(), enabled: () => may.run.value })
const TIMES = [
  { value: 30, label: '30 days' },
  { value: 90, label: '90 days' },
  { value: 395, label: '13 months' },
  { value: 760, label: '25 months' },
  { value: 1825, label: t('settings.fiveYears') },
]
const times = computed(() => {
  const days = workspace.value?.keepDays
  return days === undefined || TIMES.some(({ value }) => value === days)
    ? TIMES
    : [...TIMES, { value: days, label: t('settings.days', { days }) }]
})
const keep = useMutation({
  mutationFn: (keepDays: number) => take(api.PUT('/api/workspace', { body: { keepDays } })),
  onSuccess: (saved) => client.setQueryData(['workspace'], saved),
})

/** A shorter time deletes what is older, so it is asked for; a longer one is not. */
function setKeep(days: number) {
  const now = workspace.value?.keepDays ?? 0
  if (days >= now) return keep.mutate(days)
  confirm.require({
    header: t('settings.keepRawEventsForDays', { days }),
    message: t('settings.eventsOlder'),
    acceptProps: { label: t('settings.deleteWhatIsOlder', { days }), severity: 'danger' },
    rejectProps: { label: t('settings.leaveItAtDays', { days: now }), severity: 'secondary', text: true },
    accept: () => keep.mutate(days),
  })
}

const erasing = ref(false)
const password = ref('')
const erase = useMutation({
  mutationFn: () => take(api.POST('/api/account/deletion', { body: { password: password.value } })),
  onSuccess: ({ deleteAt }) => {
    erasing.value = false
    password.value = ''
    if (session.me) session.enter({ ...session.me, deleteAt })
  },
})
</script>

<template>
  <section aria-labelledby="data-title">
    <h2 id="data-title">{{ $t('settings.yourData') }}</h2>
    <template v-if="may.run.value">
      <div class="field">
        <span id="keep-label" class="label">{{ $t('settings.keepRawEventsFor') }}</span>
        <Select
          :model-value="workspace?.keepDays"
          :options="times"
          option-value="value"
          option-label="label"
          aria-labelledby="keep-label"
          @update:model-value="setKeep"
        />
      </div>
      <WrongText :text="keep.error.value?.message" />
    </template>
    <i18n-t keypath="settings.dailyFiguresStay" tag="p" class="soft" scope="global">
      <template #privacy
        ><RouterLink class="more" :to="{ name: 'privacy' }">{{ $t('privacy.privacy') }}</RouterLink></template
      >
    </i18n-t>
    <TakeAlong v-if="may.run.value" />
    <div v-if="!session.me?.deleteAt" class="acts">
      <Button :label="$t('settings.eraseEverything')" severity="danger" text @click="erasing = true" />
    </div>
    <Dialog v-model:visible="erasing" modal :header="$t('settings.eraseEverythingAsked')" class="erase">
      <form @submit.prevent="erase.mutate()">
        <p>
          {{ $t('settings.allPagesAddressesPicturesSources') }}
        </p>
        <FieldPassword
          v-model="password"
          :label="$t('settings.yourPassword')"
          :wrong="erase.error.value?.message"
        />
        <div class="acts">
          <Button
            type="submit"
            :label="$t('settings.eraseEverythingForGood')"
            severity="danger"
            :disabled="!password"
            :loading="erase.isPending.value"
          />
          <Button :label="$t('settings.keepIt')" severity="secondary" @click="erasing = false" />
        </div>
      </form>
    </Dialog>
  </section>
</template>

<style scoped>
.label {
  font-weight: 600;
  font-size: 0.9rem;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 12px;
}
form {
  display: grid;
  gap: 16px;
  max-width: 30rem;
}
</style>
