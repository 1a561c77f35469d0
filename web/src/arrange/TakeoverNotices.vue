<script setup lang="ts">
import { useNow } from '@vueuse/core'
import Button from 'primevue/button'
import { useToast } from 'primevue/usetoast'
import { computed, ref } from 'vue'
import type { PageState } from '@/api/client'
import { t } from '@/i18n'
import { readable } from '@/kinds/readable'
import { titleOf } from '@/page/blockWords'
import { usePageStore } from '@/page/pageStore'
import { useZone } from '@/shell/useZone'
import { momentWords } from './stateWords'

/** What takes the place of the page now or later, since when and until when; ended at one press. */
type Takeover = PageState['takeovers'][number]
const page = usePageStore()
const toast = useToast()
const now = useNow({ interval: 10_000 })
const ending = ref('')

const zone = useZone()
const hasBegun = ({ from }: Takeover) => Date.parse(from) <= now.value.getTime()
const isOver = ({ until }: Takeover) => !!until && Date.parse(until) <= now.value.getTime()
const listed = computed(() => (page.state?.takeovers ?? []).filter((each) => !isOver(each)))

/** What it does, like “Seconds sale” stands alone. */
function does(takeover: Takeover) {
  if (takeover.passThrough)
    return t('arrange.leadsStraightTo', { address: readable(takeover.passThrough.address) })
  const block = page.document?.blocks.find(({ key }) => key === takeover.solo)
  return t('arrange.standsAlone', { title: block ? titleOf(block) : t('arrange.aBlockThatIsGone') })
}

function when(takeover: Takeover) {
  const [from, until] = [takeover.from, takeover.until].map((at) => at && momentWords(at, zone.value))
  if (hasBegun(takeover))
    return until ? t('arrange.sinceUntil', { from, until }) : t('arrange.since', { from })
  return until ? t('arrange.fromUntil', { from, until }) : t('arrange.fromOn', { from })
}

function forWhom({ to }: Takeover) {
  const several = to?.sources.length ?? 0
  return to && (to.rule === 'only' ? t('arrange.fromSources', several) : t('arrange.butSources', several))
}

/** Why visitors see none of it. */
function besides(takeover: Takeover) {
  if (page.state?.liveEdition === 0) return t('arrange.onceLive')
  return hasBegun(takeover) && !takeover.shows ? t('arrange.soloHidden') : ''
}

async function end(takeover: Takeover) {
  ending.value = takeover.id
  try {
    await page.endTakeover(takeover.id)
  } catch (error) {
    toast.add({ severity: 'error', summary: (error as Error).message, life: 10_000 })
  } finally {
    ending.value = ''
  }
}
</script>

<template>
  <ul v-if="listed.length" class="takeovers" :aria-label="$t('arrange.takeovers')">
    <li v-for="each in listed" :key="each.id" :class="{ on: hasBegun(each) }">
      <p>
        <strong>{{ does(each) }}</strong>
        {{ [when(each), forWhom(each)].filter(Boolean).join(', ') }}.
        {{ besides(each) }}
      </p>
      <Button
        size="small"
        severity="secondary"
        :loading="ending === each.id"
        :label="
          !hasBegun(each)
            ? $t('arrange.callOff')
            : each.passThrough
              ? $t('arrange.leadToPage')
              : $t('arrange.putBack')
        "
        @click="end(each)"
      />
    </li>
  </ul>
</template>

<style scoped>
.takeovers {
  list-style: none;
  display: grid;
  gap: 8px;
  margin: 0 0 14px var(--gutter);
  padding: 0;
  max-width: var(--strip); /* an open editor lies beside it */
}
li {
  display: flex;
  align-items: center;
  justify-content: space-between;
  flex-wrap: wrap;
  gap: 8px 16px;
  padding: 10px 14px;
  border: 1px solid var(--line-strong);
  border-radius: 8px;
}
li.on {
  border-color: var(--amber);
  background: var(--amber-soft);
}
p {
  margin: 0;
  flex: 1 1 260px;
}
@media (max-width: 720px) {
  .takeovers {
    max-width: none;
    margin-left: 6px;
  }
}
</style>
