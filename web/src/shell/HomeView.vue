<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { watchEffect } from 'vue'
import { useRouter } from 'vue-router'
import { pagesQuery } from '@/api/queries'

const router = useRouter()
const { data: pages, error } = useQuery(pagesQuery())
watchEffect(() => {
  const first = pages.value?.[0]
  if (first) void router.replace({ name: 'arrange', params: { page: first.id } })
})
</script>

<template>
  <div class="view">
    <p v-if="error" class="notice">{{ error.message }}</p>
    <p v-else class="soft">Opening your page…</p>
  </div>
</template>
