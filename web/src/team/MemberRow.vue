<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { useConfirm } from 'primevue/useconfirm'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, take, type MemberView, type PageSummary, type RoleInReach } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import RoleFields from './RoleFields.vue'
import { useSession } from '@/session'
import { roleWords } from './roleWords'

/** One member, what they may do, and the way to change it. */
const { member } = defineProps<{ member: MemberView; pages: PageSummary[] }>()
const client = useQueryClient()
const confirm = useConfirm()
const session = useSession()
const router = useRouter()
const open = ref(false)
const role = ref<RoleInReach>({ role: member.role, whole: member.whole, pages: member.pages })
const path = { params: { path: { member: member.id } } }
const changed = () => client.invalidateQueries({ queryKey: ['members'] })

const change = useMutation({
  mutationFn: () => take(api.PUT('/api/members/{member}', { ...path, body: role.value })),
  onSuccess: async () => {
    open.value = false
    if (!member.you) return changed()
    // Whoever runs it no more sees no members.
    await session.findAnew()
    if (session.me?.role !== 'runs') await router.push({ name: 'settings' })
  },
})
const remove = useMutation({
  mutationFn: () => take(api.DELETE('/api/members/{member}', path)),
  onSuccess: changed,
})
function askToRemove() {
  confirm.require({
    header: t('team.removeAsked', { email: member.email }),
    message: t('team.removedAtOnce'),
    acceptProps: { label: t('team.remove'), severity: 'danger' },
    rejectProps: { label: t('account.leaveIt'), severity: 'secondary', text: true },
    accept: () => remove.mutate(),
  })
}
</script>

<template>
  <li class="member">
    <div class="who">
      <div>
        <strong>{{ member.email }}</strong>
        <span v-if="member.you" class="here">{{ $t('team.you') }}</span>
        <small>{{ roleWords(member, pages) }}</small>
      </div>
      <div v-if="!open" class="acts">
        <Button
          size="small"
          severity="secondary"
          :label="$t('team.change')"
          :aria-label="$t('team.changeWhom', { email: member.email })"
          @click="open = true"
        />
        <Button
          v-if="!member.you"
          size="small"
          severity="danger"
          text
          :label="$t('team.remove')"
          :aria-label="$t('team.removeWhom', { email: member.email })"
          @click="askToRemove"
        />
      </div>
    </div>
    <form v-if="open" class="account-form" @submit.prevent="change.mutate()">
      <RoleFields v-model="role" />
      <div class="acts">
        <Button type="submit" size="small" :label="$t('team.save')" :loading="change.isPending.value" />
        <Button size="small" severity="secondary" text :label="$t('common.cancel')" @click="open = false" />
      </div>
    </form>
    <WrongText :text="(change.error.value ?? remove.error.value)?.message" />
  </li>
</template>

<style scoped>
.account-list .member {
  display: grid;
  justify-content: stretch;
}
.who {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
}
.who strong {
  overflow-wrap: anywhere;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.account-form {
  max-width: 27rem;
  padding: 8px 0;
}
</style>
