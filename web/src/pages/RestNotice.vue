<script setup lang="ts">
import { momentWords } from '@/arrange/stateWords'
import { usePageStore } from '@/page/pageStore'
import { useZone } from '@/shell/useZone'
import StandingNotice from './StandingNotice.vue'

/** Says that the page rests, since when and what visitors read; woken at one press. */
const page = usePageStore()
const zone = useZone()
</script>

<template>
  <StandingNotice v-if="page.state?.resting" :label="$t('pages.wake')" :end="page.wake">
    <strong>{{ $t('pages.restsSince', { since: momentWords(page.state.resting.since, zone) }) }}</strong>
    {{ $t('pages.visitorsRead', { notice: page.state.resting.notice || $t('pages.restNotice') }) }}
  </StandingNotice>
</template>
