<script setup lang="ts">
import { Copy } from '@lucide/vue'
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { ref } from 'vue'
import { api, take, takeAll } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { formatsOf, t } from '@/i18n'
import { useCopy } from '@/shell/useCopy'

/** Read-only addresses of the figures of a page or a short link, for anyone they are handed to, until they end or are closed. */
const props = defineProps<{ of: string }>()
const client = useQueryClient()
const copy = useCopy()
const path = () => ({ of: props.of })
const { data: shared } = useQuery({
  queryKey: ['shared', () => props.of],
  queryFn: () =>
    takeAll((after) => api.GET('/api/shared-figures/{of}', { params: { path: path(), query: { after } } })),
})
const again = () => client.invalidateQueries({ queryKey: ['shared'] })

const name = ref('')
const days = ref(30)
const TIMES = [
  { value: 7, label: t('readings.aWeek') },
  { value: 30, label: '30 days' },
  { value: 365, label: t('readings.aYear') },
]
const share = useMutation({
  mutationFn: () =>
    take(
      api.POST('/api/shared-figures/{of}', {
        params: { path: path() },
        body: { name: name.value, days: days.value },
      }),
    ),
  onSuccess: () => {
    name.value = ''
    return again()
  },
})
const made = share.data
const close = useMutation({
  mutationFn: (id: string) =>
    take(api.DELETE('/api/shared-figures/{of}/{shared}', { params: { path: { ...path(), shared: id } } })),
  onSuccess: async (_, id) => {
    if (made.value?.id === id) share.reset()
    await again()
  },
})
const date = (text: string) =>
  new Date(text).toLocaleDateString(formatsOf(), { day: 'numeric', month: 'long', year: 'numeric' })
</script>

<template>
  <section class="share" aria-labelledby="share-title">
    <h2 id="share-title">{{ $t('readings.showTheseFiguresToSomebody') }}</h2>
    <p class="soft">
      {{ $t('readings.anAddressThatOpens') }}
    </p>
    <form @submit.prevent="share.mutate()">
      <div class="field">
        <label for="share-name">{{ $t('readings.whomItIsFor') }}</label>
        <InputText
          id="share-name"
          v-model="name"
          maxlength="60"
          :placeholder="$t('readings.aNameSuch')"
          autocomplete="off"
        />
      </div>
      <div class="field">
        <span id="share-days" class="label">{{ $t('readings.openFor') }}</span>
        <Select
          v-model="days"
          :options="TIMES"
          option-value="value"
          option-label="label"
          aria-labelledby="share-days"
        />
      </div>
      <Button
        type="submit"
        :label="$t('readings.makeAnAddress')"
        severity="secondary"
        :disabled="!name.trim()"
        :loading="share.isPending.value"
      />
    </form>
    <WrongText :text="share.error.value?.message" />
    <div v-if="made?.address" class="notice plain" role="status">
      <code>{{ made.address }}</code>
      <Button
        size="small"
        severity="secondary"
        @click="copy(made.address, $t('readings.theAddressFor', { name: made.name }))"
      >
        <Copy aria-hidden="true" /> {{ $t('common.copy') }}
      </Button>
      <span class="soft">{{ $t('readings.itIsShownThisOnce') }}</span>
    </div>
    <ul v-if="shared?.length">
      <li v-for="each in shared" :key="each.id">
        <strong>{{ each.name }}</strong>
        <span class="soft">{{ $t('readings.until', { date: date(each.until) }) }}</span>
        <Button
          size="small"
          severity="secondary"
          text
          :label="$t('readings.close')"
          :aria-label="$t('readings.closeTheAddressFor', { name: each.name })"
          @click="close.mutate(each.id)"
        />
      </li>
    </ul>
  </section>
</template>

<style scoped>
.share {
  display: grid;
  gap: 10px;
  justify-items: start;
}
form {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 10px;
}
.label {
  font-weight: 600;
  font-size: 0.9rem;
}
code {
  font: inherit;
  font-weight: 600;
  overflow-wrap: anywhere;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  width: 100%;
  max-width: 40rem;
}
li {
  display: grid;
  grid-template-columns: minmax(8rem, 14rem) 1fr auto;
  align-items: center;
  gap: 12px;
  border-top: 1px solid var(--line);
  padding: 4px 0;
}
.notice svg {
  width: 14px;
  height: 14px;
}
.wrong {
  color: var(--danger);
}
</style>
