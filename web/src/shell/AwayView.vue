<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { useRoute, useRouter } from 'vue-router'
import { useSession } from '@/session'

/** Stands in place of the studio while it cannot be reached, and gives way once it can. */
const route = useRoute()
const router = useRouter()
const session = useSession()
const AGAIN = 3_000

useIntervalFn(async () => {
  await session.find()
  if (!session.away) await router.replace(typeof route.query.then === 'string' ? route.query.then : '/')
}, AGAIN)
</script>

<template>
  <main class="view" role="status">
    <h1>{{ $t('shell.cannotBeReached') }}</h1>
    <p>{{ $t('shell.triedAgainByItself') }}</p>
  </main>
</template>
