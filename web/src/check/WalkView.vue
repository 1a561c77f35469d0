<script setup lang="ts">
import { Check, ExternalLink, X } from '@lucide/vue'
import { useQuery } from '@tanstack/vue-query'
import { useSessionStorage } from '@vueuse/core'
import Button from 'primevue/button'
import Skeleton from 'primevue/skeleton'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { WalkStop } from '@/api/client'
import { checkQuery } from '@/api/queries'
import { readable } from '@/kinds/readable'
import { usePageStore } from '@/page/pageStore'

/** One after the other opens what each button really leads to; the answers last as long as the tab. */
const route = useRoute()
const page = usePageStore()
const pageId = computed(() => String(route.params.page))
const { data: check, error } = useQuery(checkQuery(pageId, () => page.state?.revision))

/** What was said of an address: one that changes is to be looked at again. */
const answers = useSessionStorage<Record<string, 'right' | 'wrong'>>(() => `walk/${pageId.value}`, {})
const nameOf = (stop: WalkStop) => [stop.row, stop.item ?? '', stop.address].join(' ')
const stops = computed(() => check.value?.stops ?? [])
const at = ref(0)
watch(pageId, () => (at.value = 0))
const current = computed(() => stops.value[at.value])
const open = useTemplateRef<HTMLAnchorElement>('open')
const wrong = computed(() => stops.value.filter((stop) => answers.value[nameOf(stop)] === 'wrong'))
const unanswered = computed(() => stops.value.filter((stop) => !answers.value[nameOf(stop)]).length)

async function say(answer: 'right' | 'wrong') {
  if (!current.value) return
  answers.value = { ...answers.value, [nameOf(current.value)]: answer }
  await go(at.value + 1)
}

async function go(to: number) {
  at.value = Math.max(0, Math.min(stops.value.length, to))
  await nextTick()
  open.value?.focus()
}

function again() {
  answers.value = {}
  void go(0)
}

const edit = ({ row }: WalkStop) => ({
  name: 'arrange',
  params: { page: pageId.value },
  query: { open: row },
})
</script>

<template>
  <div class="view walk">
    <div class="view-head">
      <div>
        <h1>{{ $t('check.walk') }}</h1>
        <p>{{ $t('check.walkSays') }}</p>
      </div>
    </div>
    <p v-if="error" class="notice">{{ error.message }}</p>
    <Skeleton v-else-if="!check" height="220px" />
    <p v-else-if="stops.length === 0" class="soft">{{ $t('check.leadsNowhereYet') }}</p>
    <section v-else-if="current" class="stop" :aria-label="$t('check.stop', { n: at + 1, of: stops.length })">
      <p class="soft" role="status">{{ $t('check.stop', { n: at + 1, of: stops.length }) }}</p>
      <h2>{{ current.title }}</h2>
      <p class="address">{{ readable(current.address) }}</p>
      <p v-if="current.says" class="soft small">{{ current.says }}</p>
      <a ref="open" class="open" :href="current.opens" target="_blank" rel="noopener noreferrer"
        ><ExternalLink aria-hidden="true" /> {{ $t('check.openIt') }}</a
      >
      <div class="thumb">
        <Button severity="secondary" @click="say('wrong')"
          ><X aria-hidden="true" /> {{ $t('check.wrong') }}</Button
        >
        <Button @click="say('right')"><Check aria-hidden="true" /> {{ $t('check.right') }}</Button>
      </div>
      <p class="small">
        <button v-if="at > 0" class="as-link" type="button" @click="go(at - 1)">
          {{ $t('check.back') }}
        </button>
      </p>
    </section>
    <section v-else class="end" aria-labelledby="walk-end">
      <h2 id="walk-end">
        {{ wrong.length ? $t('check.wrongOnes', wrong.length) : $t('check.allRight') }}
      </h2>
      <p v-if="unanswered" class="soft">{{ $t('check.unanswered', unanswered) }}</p>
      <ul v-if="wrong.length">
        <li v-for="stop in wrong" :key="nameOf(stop)">
          <span
            ><strong>{{ stop.title }}</strong> {{ readable(stop.address) }}</span
          >
          <RouterLink class="mend" :to="edit(stop)"
            >{{ $t('check.mendIt') }}<span class="visually-hidden"> {{ stop.title }}</span></RouterLink
          >
        </li>
      </ul>
      <Button severity="secondary" :label="$t('check.walkAgain')" @click="again" />
    </section>
  </div>
</template>

<style scoped>
.stop,
.end {
  max-width: 560px;
}
.stop h2 {
  margin: 6px 0;
  font-size: 1.4rem;
  overflow-wrap: anywhere;
}
.address {
  margin: 0;
  overflow-wrap: anywhere;
}
.open {
  display: inline-flex;
  align-items: center;
  gap: 8px;
  margin: 16px 0;
  font-weight: 600;
}
.open svg,
.thumb svg {
  width: 18px;
  height: 18px;
}
.thumb {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
.thumb button {
  min-height: 56px;
  justify-content: center;
}
.end ul {
  list-style: none;
  padding: 0;
}
.end li {
  display: flex;
  justify-content: space-between;
  gap: 16px;
  padding: 10px 0;
  border-top: 1px solid var(--line);
  overflow-wrap: anywhere;
}
@media (max-width: 720px) {
  .thumb {
    position: fixed;
    z-index: 5;
    left: 0;
    right: 0;
    bottom: calc(61px + env(safe-area-inset-bottom));
    padding: 12px 14px;
    background: var(--surface);
    border-top: 1px solid var(--line);
  }
  .walk {
    padding-bottom: 170px;
  }
}
</style>
