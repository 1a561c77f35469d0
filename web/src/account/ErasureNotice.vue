<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, take } from '@/api/client'
import { formatsOf } from '@/i18n'
import { useSession } from '@/session'

/** Above every view of an account that is to be erased: when, and the way back. */
const session = useSession()
const date = computed(() =>
  session.me?.deleteAt
    ? new Date(session.me.deleteAt).toLocaleDateString(formatsOf(), { dateStyle: 'long' })
    : '',
)
const keep = useMutation({
  mutationFn: () => take(api.DELETE('/api/account/deletion')),
  onSuccess: () => session.findAnew(),
})
</script>

<template>
  <p v-if="date" class="notice across" role="status">
    <span>{{ keep.error.value?.message ?? $t('account.erasedOn', { date }) }}</span>
    <button class="as-link" type="button" @click="keep.mutate()">{{ $t('account.keepTheAccount') }}</button>
  </p>
</template>

<style scoped>
.across {
  border-radius: 0;
  border-width: 0 0 1px;
  padding: 8px 28px;
  margin: 0;
}
@media (max-width: 720px) {
  .across {
    padding: 8px 14px;
  }
}
</style>
