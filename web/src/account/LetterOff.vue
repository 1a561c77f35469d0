<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { useRoute } from 'vue-router'
import { api, take } from '@/api/client'
import AccountFrame from './AccountFrame.vue'

/** Where the weekly letter is switched off from within it: by a press, because mail programs open links by themselves. */
const token = String(useRoute().params.token)
const off = useMutation({
  mutationFn: () => take(api.POST('/weekly-letter/{token}', { params: { path: { token } } })),
})
</script>

<template>
  <AccountFrame
    v-if="off.isSuccess.value"
    :title="$t('account.letterIsOff')"
    :text="$t('account.noMoreLetters')"
  >
    <RouterLink class="other-way" :to="{ name: 'home' }">{{ $t('account.toTheStudio') }}</RouterLink>
  </AccountFrame>
  <AccountFrame v-else :title="$t('account.switchTheLetterOff')" :text="$t('account.figuresOfTheWeek')">
    <p v-if="off.error.value" class="notice" role="alert">{{ off.error.value.message }}</p>
    <Button :label="$t('account.switchItOff')" :loading="off.isPending.value" @click="off.mutate()" />
  </AccountFrame>
</template>
