<script setup lang="ts">
import type { ReadingsView } from '@/api/client'
import { momentWords } from '@/arrange/stateWords'
import { t } from '@/i18n'
import { readable } from '@/kinds/readable'
import { useSession } from '@/session'

/** What took the place of the page in the time that is read: its visits and clicks are among the figures. */
const props = defineProps<{ view: ReadingsView }>()
const zone = useSession().me?.zone ?? 'UTC'

function says({ solo, passThrough, from, until }: ReadingsView['took'][number]) {
  const title = props.view.titles.find(({ block }) => block === solo)?.title
  const does = passThrough
    ? t('arrange.leadsStraightTo', { address: readable(passThrough.address) })
    : t('arrange.standsAlone', { title: title ?? t('arrange.aBlockThatIsGone') })
  const [begins, ends] = [momentWords(from, zone), until && momentWords(until, zone)]
  const when = ends
    ? t('arrange.fromUntil', { from: begins, until: ends })
    : t('arrange.since', { from: begins })
  return `${does} ${when}.`
}
</script>

<template>
  <ul v-if="view.took.length" class="took" :aria-label="$t('readings.tookItsPlace')">
    <li v-for="each in view.took" :key="each.id">{{ says(each) }}</li>
  </ul>
</template>

<style scoped>
.took {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  font-size: 0.9rem;
}
li {
  padding-left: 22px;
  position: relative;
}
li::before {
  content: '';
  position: absolute;
  left: 0;
  top: 0.35em;
  width: 14px;
  height: 0.8em;
  background: var(--amber-soft);
  border: 1px solid var(--amber);
}
</style>
