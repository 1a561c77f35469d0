<script setup lang="ts">
import { momentWords } from '@/arrange/stateWords'
import { usePageStore } from '@/page/pageStore'
import { useZone } from '@/shell/useZone'

/** Says that whoever runs the service keeps the page from visitors, since when and why. */
const page = usePageStore()
const zone = useZone()
</script>

<template>
  <p v-if="page.state?.takenDown" class="notice" role="alert">
    <strong>{{ $t('pages.takenDownSince', { since: momentWords(page.state.takenDown.at, zone) }) }}</strong>
    {{ page.state.takenDown.because }} {{ $t('pages.nothingIsLost') }}
  </p>
</template>
