<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, take, type AccountView } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import FieldCode from './FieldCode.vue'
import ProvenForm from './ProvenForm.vue'
import RecoveryCodes from './RecoveryCodes.vue'

/** A code of an authenticator app, asked for besides the password. */
const { account } = defineProps<{ account: AccountView }>()
const emit = defineEmits<{ changed: [] }>()
const open = ref<'off' | 'renew'>()
const code = ref('')
const codes = ref<string[]>()

const secret = useMutation({ mutationFn: () => take(api.POST('/api/account/second-factor/secret')) })
const picture = computed(() => `data:image/svg+xml,${encodeURIComponent(secret.data.value?.code ?? '')}`)

async function switchOn(password: string) {
  const body = { password, secret: secret.data.value?.secret ?? '', code: code.value }
  codes.value = (await take(api.PUT('/api/account/second-factor', { body }))).codes
  secret.reset()
  code.value = ''
  emit('changed')
}
async function switchOff(password: string) {
  await take(api.POST('/api/account/second-factor/off', { body: { password } }))
  open.value = undefined
  emit('changed')
}
async function renew(password: string) {
  codes.value = (await take(api.POST('/api/account/recovery-codes', { body: { password } }))).codes
  open.value = undefined
  emit('changed')
}
</script>

<template>
  <section aria-labelledby="factor-title">
    <h2 id="factor-title">{{ $t('account.secondFactor') }}</h2>
    <RecoveryCodes v-if="codes" :codes="codes" @kept="codes = undefined" />
    <template v-if="account.secondFactor">
      <p>{{ $t('account.aCodeIsAskedFor', account.recoveryCodes) }}</p>
      <ProvenForm
        v-if="open === 'off'"
        :label="$t('account.askForNoCode')"
        :act="switchOff"
        @cancel="open = undefined"
      />
      <ProvenForm
        v-else-if="open === 'renew'"
        :label="$t('account.makeNewCodes')"
        :act="renew"
        @cancel="open = undefined"
      />
      <div v-else class="acts">
        <Button severity="secondary" :label="$t('account.makeNewCodes')" @click="open = 'renew'" />
        <Button severity="danger" text :label="$t('account.askForNoCode')" @click="open = 'off'" />
      </div>
    </template>
    <template v-else-if="secret.data.value">
      <p>{{ $t('account.readItWithYourApp') }}</p>
      <div class="code">
        <img :src="picture" :alt="$t('account.qrCodeForTheApp')" />
        <p class="soft">
          {{ $t('account.orTypeItIn') }}<br /><code>{{
            secret.data.value.secret.match(/.{1,4}/g)?.join(' ')
          }}</code>
        </p>
      </div>
      <ProvenForm
        v-slot="{ wrongAt }"
        :label="$t('account.askForTheCode')"
        :act="switchOn"
        :fields="['code']"
        @cancel="secret.reset()"
      >
        <FieldCode v-model="code" :hint="$t('account.thatItShowsNow')" />
        <WrongText :text="wrongAt('code')" />
      </ProvenForm>
    </template>
    <template v-else>
      <p class="soft">{{ $t('account.aPasswordCanBeGuessed') }}</p>
      <Button
        severity="secondary"
        :label="$t('account.setItUp')"
        :loading="secret.isPending.value"
        @click="secret.mutate()"
      />
      <WrongText :text="secret.error.value?.message" />
    </template>
  </section>
</template>

<style scoped>
.code {
  display: flex;
  flex-wrap: wrap;
  gap: 16px;
  align-items: center;
}
.code img {
  width: 180px;
  border: 1px solid var(--line);
}
code {
  color: var(--ink);
  font-size: 0.95rem;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
