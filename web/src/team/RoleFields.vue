<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import MultiSelect from 'primevue/multiselect'
import Select from 'primevue/select'
import { computed, useId } from 'vue'
import type { RoleInReach } from '@/api/client'
import { pagesQuery } from '@/api/queries'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import { t } from '@/i18n'
import { nameOf } from '@/pages/standing'

/** What somebody may do, and with what. */
const role = defineModel<RoleInReach>({ required: true })
const id = useId()
const { data: pages } = useQuery(pagesQuery())
const roles = [
  { value: 'runs', label: t('team.runs'), hint: t('team.runsHint') },
  { value: 'edits', label: t('team.edits'), hint: t('team.editsHint') },
  { value: 'reads', label: t('team.reads'), hint: t('team.readsHint') },
] as const
const choices = computed(() => (pages.value ?? []).map((page) => ({ value: page.id, label: nameOf(page) })))
const hint = computed(() => roles.find(({ value }) => value === role.value.role)?.hint)

function choose(chosen: RoleInReach['role']) {
  // Whoever runs it does so for all of it.
  role.value = chosen === 'runs' ? { role: chosen, whole: true, pages: [] } : { ...role.value, role: chosen }
}
</script>

<template>
  <div class="field">
    <span :id="`${id}-role`" class="label">{{ $t('team.whatTheyMay') }}</span>
    <Select
      :aria-labelledby="`${id}-role`"
      :model-value="role.role"
      :options="roles as unknown as unknown[]"
      option-value="value"
      option-label="label"
      @update:model-value="choose"
    />
    <p class="hint">{{ hint }}</p>
  </div>
  <template v-if="role.role !== 'runs' && choices.length > 1">
    <FieldSwitch
      :model-value="role.whole"
      :label="$t('team.allPages')"
      @update:model-value="role = { ...role, whole: $event, pages: [] }"
    />
    <div v-if="!role.whole" class="field">
      <span :id="`${id}-pages`" class="label">{{ $t('team.whichPages') }}</span>
      <MultiSelect
        :aria-labelledby="`${id}-pages`"
        :model-value="role.pages"
        :options="choices"
        option-value="value"
        option-label="label"
        display="chip"
        :show-toggle-all="false"
        :placeholder="$t('team.choosePages')"
        @update:model-value="role = { ...role, pages: $event }"
      />
    </div>
  </template>
</template>

<style scoped>
.label {
  font-weight: 600;
  font-size: 0.9rem;
}
</style>
