<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Select from 'primevue/select'
import { useConfirm } from 'primevue/useconfirm'
import { computed, useId } from 'vue'
import { api, take, type DomainView, type PageSummary } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { ownPassage, useSession } from '@/session'
import DomainEntries from './DomainEntries.vue'
import DomainSteps from './DomainSteps.vue'
import { stateWords } from './domainWords'

/** One domain: how far it is, what to set for it, and what stands there. */
const { domain, pages, several } = defineProps<{
  domain: DomainView
  pages: PageSummary[]
  several: boolean
}>()
const emit = defineEmits<{ changed: [] }>()
const confirm = useConfirm()
const session = useSession()
const id = useId()
const at = computed(() => ({ params: { path: { domain: domain.id } } }))
const onSuccess = () => emit('changed')

const look = useMutation({
  mutationFn: () => take(api.POST('/api/domains/{domain}/check', at.value)),
  onSuccess,
})
const change = useMutation({
  mutationFn: (body: { frontPage?: string; main: boolean }) =>
    take(api.PUT('/api/domains/{domain}', { ...at.value, body })),
  onSuccess,
})
const remove = useMutation({
  mutationFn: () => take(api.DELETE('/api/domains/{domain}', at.value)),
  onSuccess,
})
const NONE = ''
const fronts = computed(() => [
  ...pages.map((page) => ({ value: page.id, label: page.name || page.address })),
  { value: NONE, label: t('domains.nothing') },
])
const front = computed(() => pages.find((page) => page.id === domain.frontPage))
/** Opens the page there by the way that marks this browser as a member’s. */
const visit = computed(() =>
  front.value && session.me ? ownPassage(session.me, front.value.address) : `${domain.origin}/`,
)
const askToRemove = () =>
  confirm.require({
    header: t('domains.removeAsked', { domain: domain.shown }),
    message: domain.usedSince ? t('domains.whatRemovingDoes') : t('domains.removingUnused'),
    acceptProps: { label: t('domains.remove'), severity: 'danger' },
    rejectProps: { label: t('common.cancel'), severity: 'secondary', text: true },
    accept: () => remove.mutate(),
  })
const failed = computed(() => (look.error.value ?? change.error.value ?? remove.error.value)?.message)
</script>

<template>
  <section class="domain" :aria-labelledby="`${id}-title`">
    <div class="head">
      <h2 :id="`${id}-title`">{{ domain.shown }}</h2>
      <span class="state" :class="domain.state">{{ stateWords(domain) }}</span>
    </div>
    <p v-if="domain.state === 'lost'" class="notice" role="status">{{ $t('domains.lostLead') }}</p>
    <DomainSteps :domain />
    <template v-if="domain.state === 'in_use'">
      <p class="there">
        <a :href="visit" target="_blank">{{ domain.origin }}/</a>
        <span class="soft">{{
          several && !domain.main ? $t('domains.leadsToMain') : $t('domains.pagesStandThere')
        }}</span>
      </p>
      <div class="field">
        <label :id="`${id}-front`">{{ $t('domains.atTheDomainItself') }}</label>
        <Select
          :model-value="domain.frontPage ?? NONE"
          :options="fronts"
          option-value="value"
          option-label="label"
          :aria-labelledby="`${id}-front`"
          @update:model-value="change.mutate({ frontPage: $event || undefined, main: false })"
        />
      </div>
    </template>
    <details :open="domain.state !== 'in_use'">
      <summary>{{ $t('domains.whatToSet') }}</summary>
      <DomainEntries :domain />
    </details>
    <div class="acts">
      <Button
        v-if="domain.state !== 'in_use'"
        size="small"
        :label="$t('domains.lookNow')"
        :loading="look.isPending.value"
        @click="look.mutate()"
      />
      <Button
        v-if="several && !domain.main && domain.state === 'in_use'"
        size="small"
        severity="secondary"
        :label="$t('domains.makeMain')"
        @click="change.mutate({ frontPage: domain.frontPage, main: true })"
      />
      <Button size="small" severity="secondary" text :label="$t('domains.remove')" @click="askToRemove" />
    </div>
    <WrongText :text="failed" />
  </section>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 12px;
}
h2 {
  overflow-wrap: anywhere;
}
.state {
  padding: 1px 10px;
  border-radius: 999px;
  font-size: 0.85rem;
  background: var(--amber-soft);
  color: var(--amber);
}
.state.in_use {
  background: var(--accent-soft);
  color: var(--accent);
}
.state.lost {
  background: var(--danger);
  color: var(--surface);
}
.there {
  display: grid;
  overflow-wrap: anywhere;
}
.field {
  display: grid;
  gap: 4px;
}
details {
  width: 100%;
}
summary {
  cursor: pointer;
  font-weight: 600;
  padding: 4px 0;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
