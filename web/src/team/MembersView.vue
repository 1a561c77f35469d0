<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { api, take } from '@/api/client'
import { pagesQuery } from '@/api/queries'
import WrongText from '@/fields/WrongText.vue'
import { dayHere } from '@/shell/moments'
import SettingsFrame from '@/settings/SettingsFrame.vue'
import InviteForm from './InviteForm.vue'
import MemberRow from './MemberRow.vue'
import { roleWords } from './roleWords'

/** Who works with this workspace, and who is invited to. */
const client = useQueryClient()
const { data: pages } = useQuery(pagesQuery())
const { data: members } = useQuery({ queryKey: ['members'], queryFn: () => take(api.GET('/api/members')) })
const { data: invitations } = useQuery({
  queryKey: ['invitations'],
  queryFn: () => take(api.GET('/api/invitations')),
})
const takeBack = useMutation({
  mutationFn: (invitation: string) =>
    take(api.DELETE('/api/invitations/{invitation}', { params: { path: { invitation } } })),
  onSettled: () => client.invalidateQueries({ queryKey: ['invitations'] }),
})
</script>

<template>
  <SettingsFrame :title="$t('team.members')">
    <template #lead>{{ $t('team.lead') }}</template>
    <section aria-labelledby="members-title">
      <h2 id="members-title">{{ $t('team.whoIsHere') }}</h2>
      <ul class="account-list">
        <MemberRow v-for="member in members" :key="member.id" :member="member" :pages="pages ?? []" />
      </ul>
    </section>
    <section v-if="invitations?.length" aria-labelledby="invitations-title">
      <h2 id="invitations-title">{{ $t('team.invited') }}</h2>
      <ul class="account-list">
        <li v-for="invitation in invitations" :key="invitation.id">
          <div>
            <strong>{{ invitation.email }}</strong>
            <small>{{
              $t('team.untilDay', {
                role: roleWords(invitation, pages ?? []),
                day: dayHere(invitation.until),
              })
            }}</small>
          </div>
          <Button
            size="small"
            severity="secondary"
            :label="$t('team.takeBack')"
            :aria-label="$t('team.takeBackWhom', { email: invitation.email })"
            @click="takeBack.mutate(invitation.id)"
          />
        </li>
      </ul>
      <WrongText :text="takeBack.error.value?.message" />
    </section>
    <section aria-labelledby="invite-title">
      <h2 id="invite-title">{{ $t('team.inviteSomebody') }}</h2>
      <InviteForm />
    </section>
  </SettingsFrame>
</template>
