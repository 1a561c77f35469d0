<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { useConfirm } from 'primevue/useconfirm'
import { computed, ref, watch } from 'vue'
import { api, ApiError, take } from '@/api/client'
import { counted } from '@/figures'
import FieldText from '@/fields/FieldText.vue'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { timeHere } from '@/shell/moments'

/** Where sign-ups are handed on to by themselves. */
const client = useQueryClient()
const confirm = useConfirm()
const { data, error } = useQuery({
  queryKey: ['list-service'],
  queryFn: () => take(api.GET('/api/list-service')),
  refetchInterval: (query) => (query.state.data?.service?.waiting ? 2000 : false),
})
const service = computed(() => data.value?.service)
// What it took in the meantime stands in the list of people, too.
watch(
  () => service.value?.told,
  () => client.invalidateQueries({ queryKey: ['sign-ups', 'list'] }),
)
const editing = ref(false)
const address = ref('')
const list = ref('')
const token = ref('')

function edit() {
  address.value = service.value?.address ?? 'https://'
  list.value = service.value?.list ?? ''
  token.value = ''
  editing.value = true
}

const refresh = () =>
  Promise.all([
    client.invalidateQueries({ queryKey: ['list-service'] }),
    client.invalidateQueries({ queryKey: ['sign-ups'] }),
  ])
const keep = useMutation({
  mutationFn: () =>
    take(
      api.PUT('/api/list-service', {
        body: { address: address.value, list: list.value, token: token.value },
      }),
    ),
  onSuccess: () => {
    editing.value = false
    return refresh()
  },
})
/** Turns a service on that was turned off, and has what waits tried at once. */
function tryNow() {
  address.value = service.value?.address ?? ''
  list.value = service.value?.list ?? ''
  token.value = ''
  keep.mutate()
}
const drop = useMutation({
  mutationFn: () => take(api.DELETE('/api/list-service')),
  onSuccess: refresh,
})
const askToDrop = () =>
  confirm.require({
    header: t('signUps.stopAsked'),
    message: t('signUps.whatItHasStays'),
    acceptProps: { label: t('signUps.stopHandingOn'), severity: 'danger' },
    rejectProps: { label: t('common.cancel'), severity: 'secondary', text: true },
    accept: () => drop.mutate(),
  })
const wrongAt = (field: string) =>
  keep.error.value instanceof ApiError && keep.error.value.field === field
    ? keep.error.value.message
    : undefined
const wrongElse = computed(() =>
  ['address', 'list', 'token'].some(wrongAt) ? undefined : keep.error.value?.message,
)
</script>

<template>
  <section class="service" aria-labelledby="list-service-title">
    <h2 id="list-service-title">{{ $t('signUps.handOn') }}</h2>
    <p class="soft">{{ $t('signUps.toTheServiceYouWriteWith') }}</p>
    <template v-if="!editing">
      <template v-if="service">
        <p>
          <strong class="address">{{ service.address }}</strong>,
          {{ $t('signUps.whichList', { list: service.list }) }}
        </p>
        <p>
          {{ $t('signUps.itKnows', { people: counted(service.told, 'person') }) }}
          <template v-if="service.waiting">
            {{ $t('signUps.stillToTell', { n: service.waiting }, service.waiting) }}
            <template v-if="service.failure || (service.status ?? 0) >= 300">
              {{ service.failure || $t('signUps.lastAnswered', { status: service.status }) }}
            </template>
          </template>
        </p>
        <p v-if="service.offAt" class="notice" role="status">
          {{ $t('signUps.offSince', { when: timeHere(service.offAt), why: service.offBecause ?? '' }) }}
        </p>
      </template>
      <div class="acts">
        <Button
          severity="secondary"
          size="small"
          :label="service ? $t('signUps.changeIt') : $t('signUps.connect')"
          @click="edit"
        />
        <Button
          v-if="service?.waiting"
          severity="secondary"
          size="small"
          :label="$t('signUps.tryNow')"
          :loading="keep.isPending.value"
          @click="tryNow"
        />
        <Button
          v-if="service"
          severity="secondary"
          size="small"
          text
          :label="$t('signUps.stopHandingOn')"
          @click="askToDrop"
        />
      </div>
      <WrongText :text="(error ?? keep.error.value ?? drop.error.value)?.message" />
    </template>
    <form v-else class="account-form" novalidate @submit.prevent="keep.mutate()">
      <FieldText
        v-model="address"
        :label="$t('signUps.serviceAddress')"
        inputmode="url"
        :hint="$t('signUps.asItsHelpShowsIt')"
        :wrong="wrongAt('address')"
      />
      <FieldText v-model="list" :label="$t('signUps.list')" :maxlength="100" :wrong="wrongAt('list')" />
      <FieldText
        v-model="token"
        :label="$t('signUps.token')"
        :maxlength="500"
        :hint="service ? $t('signUps.leftEmptyItStays') : undefined"
        :wrong="wrongAt('token')"
      />
      <WrongText :text="wrongElse" />
      <div class="acts">
        <Button type="submit" :label="$t('signUps.handOnNow')" :loading="keep.isPending.value" />
        <Button severity="secondary" text :label="$t('common.cancel')" @click="editing = false" />
      </div>
    </form>
  </section>
</template>
