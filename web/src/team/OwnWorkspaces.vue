<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { useConfirm } from 'primevue/useconfirm'
import { computed } from 'vue'
import { api, take } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { saveAll } from '@/saving/editing'
import { enterAnew } from '@/session'
import { roleWords } from './roleWords'
import { useMay } from './useMay'

/** The workspaces somebody is in: from one to another, and out of one. */
const may = useMay()
const confirm = useConfirm()
const { data: workspaces } = useQuery({
  queryKey: ['workspaces'],
  queryFn: () => take(api.GET('/api/workspaces')),
})
const others = computed(() => (workspaces.value ?? []).filter(({ current }) => !current))
const here = computed(() => workspaces.value?.find(({ current }) => current))

const enter = useMutation({
  mutationFn: async (workspace: string) => {
    await saveAll()
    await take(api.POST('/api/workspaces/{workspace}/enter', { params: { path: { workspace } } }))
  },
  onSuccess: () => enterAnew(),
})
const leave = useMutation({
  mutationFn: () => take(api.DELETE('/api/workspace/membership')),
  onSuccess: () => enterAnew(),
})
function askToLeave() {
  confirm.require({
    header: t('team.leaveAsked', { name: here.value?.name ?? '' }),
    message: t('team.comeBackInvited'),
    acceptProps: { label: t('team.leave'), severity: 'danger' },
    rejectProps: { label: t('team.stay'), severity: 'secondary', text: true },
    accept: () => leave.mutate(),
  })
}
</script>

<template>
  <section aria-labelledby="workspaces-title">
    <h2 id="workspaces-title">{{ $t('team.workingTogether') }}</h2>
    <p v-if="here && (others.length || !may.run.value)">
      {{ $t('team.youAreIn', { name: here.name, role: roleWords({ ...here, pages: [] }, []) }) }}
    </p>
    <RouterLink v-if="may.run.value" class="more" :to="{ name: 'members' }">{{
      $t('team.membersAndInvitations')
    }}</RouterLink>
    <RouterLink v-if="may.editAll.value" class="more" :to="{ name: 'journal' }">{{
      $t('journal.journal')
    }}</RouterLink>
    <ul v-if="others.length" class="account-list">
      <li v-for="workspace in others" :key="workspace.id">
        <div>
          <strong>{{ workspace.name }}</strong>
          <small>{{ roleWords({ ...workspace, whole: true, pages: [] }, []) }}</small>
        </div>
        <Button
          size="small"
          severity="secondary"
          :label="$t('team.goThere')"
          :aria-label="$t('team.goTo', { name: workspace.name })"
          @click="enter.mutate(workspace.id)"
        />
      </li>
    </ul>
    <Button
      v-if="others.length || !may.run.value"
      severity="danger"
      text
      :label="$t('team.leaveThis')"
      @click="askToLeave"
    />
    <WrongText :text="(enter.error.value ?? leave.error.value)?.message" />
  </section>
</template>
