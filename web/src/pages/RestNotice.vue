<script setup lang="ts">
import { momentWords } from '@/arrange/stateWords'
import { t } from '@/i18n'
import { usePageStore } from '@/page/pageStore'
import { useUndo } from '@/shell/useUndo'
import { useZone } from '@/shell/useZone'
import StandingNotice from './StandingNotice.vue'

/** Says that the page rests, since when and what visitors read; woken at one press. */
const page = usePageStore()
const zone = useZone()
const offerUndo = useUndo()

async function wake() {
  const notice = page.state?.resting?.notice ?? ''
  await page.wake()
  offerUndo(t('pages.isBack'), () => page.rest(notice))
}
</script>

<template>
  <StandingNotice v-if="page.state?.resting" :label="$t('pages.wake')" :end="wake">
    <strong>{{ $t('pages.restsSince', { since: momentWords(page.state.resting.since, zone) }) }}</strong>
    {{ $t('pages.visitorsRead', { notice: page.state.resting.notice || $t('pages.restNotice') }) }}
  </StandingNotice>
</template>
