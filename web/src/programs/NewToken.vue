<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { ref } from 'vue'
import ProvenForm from '@/account/ProvenForm.vue'
import { api, take } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldText from '@/fields/FieldText.vue'
import { t } from '@/i18n'
import { useCopy } from '@/shell/useCopy'
import { mayWords } from './programWords'

/** Makes a token, and shows it once. */
const emit = defineEmits<{ done: [] }>()
const client = useQueryClient()
const copy = useCopy()
const name = ref('')
const role = ref<'reads' | 'edits'>('reads')
const days = ref(90)
const token = ref('')
const ROLES = [
  { value: 'reads', label: mayWords('reads') },
  { value: 'edits', label: mayWords('edits') },
] as const
const SPANS = [
  { value: 30, label: t('programs.aMonth') },
  { value: 90, label: t('programs.threeMonths') },
  { value: 365, label: t('programs.aYear') },
]

async function make(password: string) {
  const body = { password, name: name.value, role: role.value, days: days.value }
  token.value = (await take(api.POST('/api/api-tokens', { body }))).token
  await client.invalidateQueries({ queryKey: ['api-tokens'] })
}
</script>

<template>
  <div v-if="token" class="notice made" role="status">
    <p>{{ $t('programs.copyItNow') }}</p>
    <code>{{ token }}</code>
    <div class="acts">
      <Button size="small" :label="$t('programs.copyToken')" @click="copy(token, $t('programs.theToken'))" />
      <Button size="small" severity="secondary" text :label="$t('programs.iHaveIt')" @click="emit('done')" />
    </div>
  </div>
  <ProvenForm v-else :label="$t('programs.makeIt')" :act="make" :fields="['name']" @cancel="emit('done')">
    <template #default="{ wrongAt }">
      <FieldText
        v-model="name"
        :label="$t('programs.whatFor')"
        :maxlength="60"
        :placeholder="$t('programs.suchAs')"
        :wrong="wrongAt('name')"
      />
      <FieldChoice v-model="role" :label="$t('programs.whatItMay')" :options="ROLES" />
      <FieldChoice v-model="days" :label="$t('programs.forHowLong')" :options="SPANS" />
    </template>
  </ProvenForm>
</template>

<style scoped>
.made {
  display: grid;
  gap: 8px;
  max-width: 100%;
}
code {
  overflow-wrap: anywhere;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
