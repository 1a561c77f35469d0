<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import FieldPageAddress from '@/account/FieldPageAddress.vue'
import { useAccountForm } from '@/account/useAccountForm'
import { api, take } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { enterAnew } from '@/session'

/** For somebody who is in no workspace any more: the way to one of their own. */
const pageAddress = ref('')
const { busy, send, wrongAt, wrongElse } = useAccountForm()
const open = () =>
  send(async () => {
    const zone = Intl.DateTimeFormat().resolvedOptions().timeZone
    await take(api.POST('/api/workspaces', { body: { pageAddress: pageAddress.value, zone } }))
    enterAnew()
  })
</script>

<template>
  <div class="view">
    <h1>{{ $t('team.youAreInNone') }}</h1>
    <p class="soft">{{ $t('team.openOneOfYourOwn') }}</p>
    <form class="account-form own" novalidate @submit.prevent="open">
      <WrongText class="notice" :text="wrongElse('pageAddress')" />
      <FieldPageAddress v-model="pageAddress" :wrong="wrongAt('pageAddress')" />
      <div><Button type="submit" :label="$t('team.openAWorkspace')" :loading="busy" /></div>
    </form>
  </div>
</template>

<style scoped>
.own {
  max-width: 27rem;
}
</style>
