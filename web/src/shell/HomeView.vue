<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { watchEffect } from 'vue'
import { useRouter } from 'vue-router'
import { pagesQuery } from '@/api/queries'
import { useMay } from '@/team/useMay'

const router = useRouter()
const may = useMay()
const { data: pages, error } = useQuery(pagesQuery())
watchEffect(() => {
  const first = pages.value?.find(({ state }) => state !== 'deleted')
  if (!first) return
  // A page with nothing on it begins with a choice.
  const name = !may.edit.value ? 'readings' : first.empty ? 'starters' : 'arrange'
  void router.replace({ name, params: { page: first.id } })
})
</script>

<template>
  <div class="view">
    <p v-if="error" class="notice">{{ error.message }}</p>
    <p v-else class="soft">{{ $t('shell.openingYourPage') }}</p>
  </div>
</template>
