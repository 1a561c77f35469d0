<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, take, type PageSummary } from '@/api/client'
import FileButton from '@/fields/FileButton.vue'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { saveAll } from '@/saving/editing'
import { nameOf } from './standing'
import { takePageIn } from './takePageIn'

/** Makes another page: from a ready-made one, an empty one, or one that is there. */
const props = defineProps<{ pages: PageSummary[] }>()
const router = useRouter()
const client = useQueryClient()
const address = ref('')
/** Of the select, which takes an empty value for none. */
const NONE = 'none'
const beginsAs = ref(NONE)
const copyOf = computed(() => (beginsAs.value === NONE ? '' : beginsAs.value))
const withSources = ref(true)
const beginnings = computed(() => [
  { id: NONE, label: t('pages.fromTheStart') },
  ...props.pages.map((each) => ({ id: each.id, label: t('pages.copyOf', { name: nameOf(each) }) })),
])
const add = useMutation({
  mutationFn: async () => {
    await saveAll() // what is copied is what was typed
    const copying = copyOf.value ? { copyOf: copyOf.value, withSources: withSources.value } : {}
    return take(api.POST('/api/pages', { body: { address: address.value, ...copying } }))
  },
  onSuccess: async (made) => {
    await client.invalidateQueries({ queryKey: ['pages'] })
    await router.push({ name: copyOf.value ? 'arrange' : 'starters', params: { page: made.id } })
  },
})

/** Makes a page of one that was taken along, under the address that is typed or the one it had. */
const takeIn = useMutation({
  mutationFn: (file: File) => takePageIn(file, address.value.trim()),
  onSuccess: async (made) => {
    await client.invalidateQueries({ queryKey: ['pages'] })
    await router.push({ name: 'arrange', params: { page: made.id } })
  },
})
</script>

<template>
  <section aria-labelledby="another-title">
    <h2 id="another-title">{{ $t('pages.another') }}</h2>
    <form @submit.prevent="add.mutate()">
      <div class="field">
        <label for="another">{{ $t('pages.addressOfAnotherPage') }}</label>
        <InputText
          id="another"
          v-model="address"
          autocapitalize="none"
          autocomplete="off"
          spellcheck="false"
          :invalid="add.isError.value"
          aria-describedby="another-says"
        />
      </div>
      <div class="field">
        <span id="another-begins" class="label">{{ $t('pages.beginsAs') }}</span>
        <Select
          v-model="beginsAs"
          :options="beginnings"
          option-value="id"
          option-label="label"
          aria-labelledby="another-begins"
        />
      </div>
      <div v-if="copyOf" class="check">
        <Checkbox v-model="withSources" input-id="another-sources" binary />
        <label for="another-sources">{{ $t('pages.withItsSources') }}</label>
      </div>
      <Button
        type="submit"
        :label="$t('pages.addPage')"
        severity="secondary"
        :loading="add.isPending.value"
        :disabled="!address.trim()"
      />
    </form>
    <WrongText id="another-says" :text="add.error.value?.message" />
    <p class="soft">{{ $t('pages.fromAFileSays') }}</p>
    <FileButton
      :label="$t('pages.fromAFile')"
      :of="$t('pages.fileOfAPage')"
      accept=".json,.zip,application/json,application/zip"
      :busy="takeIn.isPending.value"
      @chosen="takeIn.mutate($event[0])"
    />
    <WrongText :text="takeIn.error.value?.message" />
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 12px;
  justify-items: start;
  margin-top: 28px;
  padding-top: 20px;
  border-top: 1px solid var(--line-strong);
}
form {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 10px 14px;
}
form .p-button,
.check {
  height: 38px;
}
.check {
  display: flex;
  align-items: center;
  gap: 8px;
}
.label {
  font-weight: 600;
  font-size: 0.9rem;
}
</style>
