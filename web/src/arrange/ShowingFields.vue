<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { Block } from '@/api/client'
import { sourcesQuery, workspaceQuery } from '@/api/queries'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import WindowRows from '@/fields/WindowRows.vue'
import { tomorrowAtNine, toMoment, toWallClock } from '@/fields/zonedTime'
import { t } from '@/i18n'
import { titleOf } from '@/page/blockWords'
import { usePageStore } from '@/page/pageStore'
import { useSession } from '@/session'
import WeeklyRows from './WeeklyRows.vue'

/** When a block shows, and to whom: always and to all, unless it says otherwise. */
const props = defineProps<{ block: Block }>()
const page = usePageStore()
const session = useSession()
const route = useRoute()
const { data: workspace } = useQuery(workspaceQuery())
const { data: sources } = useQuery(sourcesQuery(() => String(route.params.page)))

/** Open from the beginning where something is set; it stays as somebody left it while the block is edited. */
const opened = ref(false)
watch(
  () => props.block.key,
  () => (opened.value = !!props.block.when || !!props.block.to),
  { immediate: true },
)

type When = NonNullable<Block['when']>
const zone = computed(() => props.block.when?.zone ?? workspace.value?.zone ?? session.me?.zone ?? 'UTC')
const windows = computed(() =>
  (props.block.when?.spans ?? []).map(({ from, to }) => ({
    from: toWallClock(from, zone.value),
    to: toWallClock(to, zone.value),
  })),
)
const refused = computed(
  () => page.refusals.find(({ place }) => place.startsWith(`blocks/${props.block.key}/when`))?.message,
)

function setWhen(change: Partial<When>) {
  const when = { zone: zone.value, ...props.block.when, ...change }
  page.changeBlock(
    t('arrange.changeWhen', { title: titleOf(props.block) }),
    props.block.key,
    (block) => (block.when = when.spans?.length || when.weekly?.length ? when : undefined),
    `${props.block.key}/when`,
  )
}

const setWindows = (entered: { from?: string; to?: string }[]) =>
  setWhen({
    spans: entered.map(({ from, to }) => ({
      from: toMoment(from, zone.value),
      to: toMoment(to, zone.value),
    })),
  })

/** Switches a hidden block on, to begin by itself: prepared now, live later. */
function prepare() {
  page.changeBlock(t('arrange.prepare', { title: titleOf(props.block) }), props.block.key, (block) => {
    block.shown = true
    block.when = { zone: zone.value, spans: [{ from: tomorrowAtNine(zone.value) }] }
  })
}

const rules = [
  { value: 'all', label: t('arrange.toAll') },
  { value: 'only', label: t('arrange.onlyFrom') },
  { value: 'but', label: t('arrange.allBut') },
] as const
const choices = computed(
  () => sources.value?.filter(({ retired, id }) => !retired || named.value.includes(id)) ?? [],
)
const named = computed(() => props.block.to?.sources ?? [])

function setTo(rule: 'all' | 'only' | 'but', ids: string[]) {
  page.changeBlock(
    t('arrange.changeTo', { title: titleOf(props.block) }),
    props.block.key,
    (block) => (block.to = rule === 'all' || ids.length === 0 ? undefined : { rule, sources: ids }),
    `${props.block.key}/to`,
  )
}

/** A rule begins with the first source: one that names none says nothing. */
function setRule(rule: 'all' | 'only' | 'but') {
  const first = choices.value[0]?.id
  setTo(rule, named.value.length > 0 ? named.value : first ? [first] : [])
}

const without = (id: string) => named.value.filter((each) => each !== id)
</script>

<template>
  <details class="showing" :open="opened">
    <summary>{{ $t('arrange.whenAndToWhom') }}</summary>
    <div class="inner">
      <Button
        v-if="!block.shown"
        size="small"
        severity="secondary"
        :label="$t('arrange.letItBegin')"
        @click="prepare"
      />
      <WindowRows
        :always="block.when?.weekly?.length ? '' : $t('arrange.atAllTimes')"
        :model-value="windows"
        :zone="zone"
        :wrong="refused"
        @update:model-value="setWindows"
      />
      <WeeklyRows :model-value="block.when?.weekly ?? []" @update:model-value="setWhen({ weekly: $event })" />
      <template v-if="choices.length">
        <FieldChoice
          :label="$t('arrange.whoSeesIt')"
          :model-value="block.to?.rule ?? 'all'"
          :options="rules"
          @update:model-value="setRule"
        />
        <template v-if="block.to">
          <FieldSwitch
            v-for="source in choices"
            :key="source.id"
            :label="source.name"
            :model-value="named.includes(source.id)"
            @update:model-value="setTo(block.to.rule, $event ? [...named, source.id] : without(source.id))"
          />
          <p class="soft small">{{ $t('arrange.byTheAddress') }}</p>
        </template>
      </template>
    </div>
  </details>
</template>

<style scoped>
.showing {
  border-top: 1px solid var(--line);
  padding-top: 12px;
}
summary {
  font-weight: 600;
  font-size: 0.9rem;
  cursor: pointer;
}
.inner {
  display: grid;
  gap: 14px;
  justify-items: start;
  padding-top: 12px;
}
</style>
