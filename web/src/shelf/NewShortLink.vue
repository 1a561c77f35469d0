<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { promiseTimeout } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref } from 'vue'
import { api, ApiError, take, type ShortLink } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'

/** A line to make a short link on: where it leads, and its address if one is to be chosen. */
const props = defineProps<{ host: string }>()
const emit = defineEmits<{ made: [link: ShortLink] }>()
const client = useQueryClient()
const destination = ref('')
const address = ref('')

/** What the site calls itself, if it says so soon: a name to begin with. */
async function titleOf(address: string) {
  const described = take(api.POST('/api/describe', { body: { address } }))
  const found = await Promise.race([described.catch(() => undefined), promiseTimeout(PATIENCE)])
  return found?.title.slice(0, 80) ?? ''
}
const PATIENCE = 2500

const {
  mutate: make,
  error: wrong,
  isPending,
} = useMutation({
  mutationFn: async () =>
    take(
      api.POST('/api/short-links', {
        body: {
          address: address.value.trim() || undefined,
          link: {
            name: await titleOf(destination.value),
            destination: destination.value,
            on: true,
            redirect: 302,
            labels: [],
            windows: [],
          },
        },
      }),
    ),
  onSuccess: async (made) => {
    destination.value = ''
    address.value = ''
    await client.invalidateQueries({ queryKey: ['short-links'] })
    emit('made', made)
  },
})
const isAbout = (field: string) => wrong.value instanceof ApiError && wrong.value.field === field
defineExpose({
  /** Begins with a destination from elsewhere. */
  begin(from: string) {
    destination.value = from
    document.getElementById('link-address')?.focus()
  },
})
</script>

<template>
  <form class="make" :aria-label="$t('shelf.newShortLink')" @submit.prevent="make()">
    <div class="field to">
      <label for="link-destination">{{ $t('common.leadsTo') }}</label>
      <InputText
        id="link-destination"
        v-model="destination"
        inputmode="url"
        :placeholder="$t('shelf.httpsYourSiteExampleDates')"
        autocapitalize="none"
        autocomplete="off"
        spellcheck="false"
        :invalid="isAbout('destination')"
      />
    </div>
    <div class="field name">
      <label for="link-address">{{ $t('shelf.shortAddress') }}</label>
      <span class="whole">
        <span class="host" aria-hidden="true">{{ props.host }}/</span>
        <InputText
          id="link-address"
          v-model="address"
          :placeholder="$t('shelf.madeForYou')"
          maxlength="40"
          autocapitalize="none"
          autocomplete="off"
          spellcheck="false"
          :invalid="isAbout('address')"
        />
      </span>
    </div>
    <Button
      type="submit"
      :label="$t('shelf.makeAShortLink')"
      :disabled="!destination.trim()"
      :loading="isPending"
    />
    <WrongText :text="wrong?.message" />
  </form>
</template>

<style scoped>
.make {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 10px 12px;
  padding: 14px 16px;
  background: var(--sunk);
  border-left: 3px solid var(--accent);
}
.to {
  flex: 2 1 11rem;
}
.name {
  flex: 1 1 13.5rem;
}
/* An input is as wide as its letters would be unless it is told otherwise. */
.make .p-inputtext {
  width: 100%;
  min-width: 0;
}
.whole {
  display: flex;
  align-items: center;
}
.host {
  padding-right: 4px;
  color: var(--ink-soft);
}
.wrong {
  width: 100%;
  color: var(--danger);
}
</style>
