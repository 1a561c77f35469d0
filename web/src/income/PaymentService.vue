<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { useConfirm } from 'primevue/useconfirm'
import { computed, ref } from 'vue'
import { api, ApiError, take } from '@/api/client'
import { incomeQuery } from '@/api/queries'
import FieldText from '@/fields/FieldText.vue'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { timeHere } from '@/shell/moments'
import { useCopy } from '@/shell/useCopy'

/** The service that visitors pay by. */
const client = useQueryClient()
const confirm = useConfirm()
const copy = useCopy()
const { data, error } = useQuery(incomeQuery())
const service = computed(() => data.value?.service)
const editing = ref(false)
const address = ref('')
const token = ref('')
const secret = ref('')

function edit() {
  address.value = service.value?.address ?? 'https://'
  token.value = ''
  secret.value = ''
  editing.value = true
}
const refresh = () => client.invalidateQueries({ queryKey: ['income'] })
const keep = useMutation({
  mutationFn: () =>
    take(
      api.PUT('/api/payment-service', {
        body: { address: address.value, token: token.value, secret: secret.value },
      }),
    ),
  onSuccess: () => {
    editing.value = false
    return refresh()
  },
})
const drop = useMutation({
  mutationFn: () => take(api.DELETE('/api/payment-service')),
  onSuccess: refresh,
})
const askToDrop = () =>
  confirm.require({
    header: t('income.disconnectAsked'),
    message: t('income.nobodyCanPayThen'),
    acceptProps: { label: t('income.disconnect'), severity: 'danger' },
    rejectProps: { label: t('common.cancel'), severity: 'secondary', text: true },
    accept: () => drop.mutate(),
  })
const wrongAt = (field: string) =>
  keep.error.value instanceof ApiError && keep.error.value.field === field
    ? keep.error.value.message
    : undefined
const wrongElse = computed(() =>
  ['address', 'token', 'secret'].some(wrongAt) ? undefined : keep.error.value?.message,
)
</script>

<template>
  <section class="service" aria-labelledby="payment-service-title">
    <h2 id="payment-service-title">{{ $t('income.service') }}</h2>
    <p class="soft">{{ $t('income.whatTheServiceDoes') }}</p>
    <template v-if="!editing">
      <template v-if="service">
        <p>
          <strong class="address">{{ service.address }}</strong>
        </p>
        <p>
          {{ $t('income.tellItToNotify') }}
          <code class="address">{{ service.notices }}</code>
          <Button
            size="small"
            severity="secondary"
            text
            :label="$t('income.copyIt')"
            @click="copy(service.notices, $t('income.theAddress'))"
          />
        </p>
        <p v-if="service.failure" class="notice" role="status">
          {{
            $t('income.tookNothing', {
              when: service.failedAt ? timeHere(service.failedAt) : '',
              why: service.failure,
            })
          }}
        </p>
      </template>
      <div class="acts">
        <Button
          severity="secondary"
          size="small"
          :label="service ? $t('signUps.changeIt') : $t('income.connect')"
          @click="edit"
        />
        <Button
          v-if="service"
          severity="secondary"
          size="small"
          text
          :label="$t('income.disconnect')"
          @click="askToDrop"
        />
      </div>
      <WrongText :text="(error ?? drop.error.value)?.message" />
    </template>
    <form v-else class="account-form" novalidate @submit.prevent="keep.mutate()">
      <FieldText
        v-model="address"
        :label="$t('signUps.serviceAddress')"
        inputmode="url"
        :hint="$t('income.asItsHelpShowsIt')"
        :wrong="wrongAt('address')"
      />
      <FieldText
        v-model="token"
        :label="$t('signUps.token')"
        :maxlength="500"
        :hint="service ? $t('signUps.leftEmptyItStays') : undefined"
        :wrong="wrongAt('token')"
      />
      <FieldText
        v-model="secret"
        :label="$t('income.secret')"
        :maxlength="200"
        :hint="service ? $t('signUps.leftEmptyItStays') : $t('income.whatItSignsWith')"
        :wrong="wrongAt('secret')"
      />
      <WrongText :text="wrongElse" />
      <div class="acts">
        <Button type="submit" :label="$t('income.connectIt')" :loading="keep.isPending.value" />
        <Button severity="secondary" text :label="$t('common.cancel')" @click="editing = false" />
      </div>
    </form>
  </section>
</template>
