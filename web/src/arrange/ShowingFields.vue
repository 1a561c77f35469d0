<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import type { Block } from '@/api/client'
import { tomorrowAtNine } from '@/fields/zonedTime'
import { t } from '@/i18n'
import { titleOf } from '@/page/blockWords'
import { usePageStore } from '@/page/pageStore'
import { useZone } from '@/shell/useZone'
import SourceRuleFields from './SourceRuleFields.vue'
import TimesFields from './TimesFields.vue'

/** When a block shows, and to whom: always and to all, unless it says otherwise. */
const props = defineProps<{ block: Block }>()
const page = usePageStore()
const zone = useZone()

/** Open from the beginning where something is set; it stays as somebody left it while the block is edited. */
const opened = ref(false)
watch(
  () => props.block.key,
  () => (opened.value = !!props.block.when || !!props.block.to),
  { immediate: true },
)

const refused = computed(
  () => page.refusals.find(({ place }) => place.startsWith(`blocks/${props.block.key}/when`))?.message,
)

function set<K extends 'when' | 'to'>(field: K, value: Block[K]) {
  const title = titleOf(props.block)
  page.changeBlock(
    field === 'when' ? t('arrange.changeWhen', { title }) : t('arrange.changeTo', { title }),
    props.block.key,
    (block) => (block[field] = value),
    `${props.block.key}/${field}`,
  )
}

/** Switches a hidden block on, to begin by itself: prepared now, live later. */
function prepare() {
  page.changeBlock(t('arrange.prepare', { title: titleOf(props.block) }), props.block.key, (block) => {
    block.shown = true
    block.when = { zone: zone.value, spans: [{ from: tomorrowAtNine(zone.value) }] }
  })
}
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
      <TimesFields
        :model-value="block.when"
        :always="$t('arrange.atAllTimes')"
        :wrong="refused"
        @update:model-value="set('when', $event)"
      />
      <SourceRuleFields
        :label="$t('arrange.whoSeesIt')"
        :model-value="block.to"
        @update:model-value="set('to', $event)"
      />
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
