<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { watchEffect } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { pagesQuery } from '@/api/queries'

/** What another app shares with the studio (W3C Web Share Target) lands on the paste line of the first page. */
const route = useRoute()
const router = useRouter()
const { data: pages, error } = useQuery(pagesQuery())

/** Many apps put the address into the text, behind some words. */
const shared = () => {
  const { url, text } = route.query
  const given = [url, text].find((each): each is string => typeof each === 'string' && each.trim() !== '')
  return /https?:\/\/\S+/.exec(given ?? '')?.[0] ?? given ?? ''
}

watchEffect(() => {
  const first = pages.value?.[0]
  if (first) void router.replace({ name: 'arrange', params: { page: first.id }, query: { paste: shared() } })
})
</script>

<template>
  <div class="view">
    <p v-if="error" class="notice">{{ error.message }}</p>
    <p v-else class="soft">{{ $t('shell.openingYourPage') }}</p>
  </div>
</template>
