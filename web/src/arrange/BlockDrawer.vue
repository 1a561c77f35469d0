<script setup lang="ts">
import { ArrowDownToLine, ArrowUpToLine, CopyPlus, Eye, EyeOff } from '@lucide/vue'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import type { Block } from '@/api/client'
import type { components } from '@/api/generated/schema'
import ToolButton from '@/fields/ToolButton.vue'
import { t } from '@/i18n'
import { kindOf } from '@/kinds/registry'
import OwnLooks from '@/look/OwnLooks.vue'
import type { Lane } from '@/sourceColours'
import { titleOf } from '@/page/blockWords'
import { usePageStore } from '@/page/pageStore'
import EditorDrawer from './EditorDrawer.vue'
import GateFields from './GateFields.vue'
import ShowingFields from './ShowingFields.vue'
import SourceClicks from './SourceClicks.vue'
import TakeoverForm from './TakeoverForm.vue'
import ToAnotherPage from './ToAnotherPage.vue'

/** The editor of a block: that of its kind, and what all kinds share. */
const props = defineProps<{
  block: Block
  place: number
  figures?: components['schemas']['BlockReading']
  /** The from lanes, which the drawer covers, and a phone has no room for. */
  lanes: Lane[]
  first: boolean
  last: boolean
}>()
const emit = defineEmits<{ close: []; remove: []; toggle: []; duplicate: []; top: []; bottom: [] }>()

const page = usePageStore()
function setGate(gate: Block['gate']) {
  const step = t('arrange.changeGateOf', { title: titleOf(props.block) })
  page.changeBlock(step, props.block.key, (block) => void (block.gate = gate), `${props.block.key}/gate`)
}

const soloOpen = ref(false)
const kind = computed(() => kindOf(props.block))
const title = computed(() => {
  const label = kind.value?.label ?? t('arrange.block')
  return props.place
    ? t('arrange.atPlace', { label, place: props.place })
    : t('arrange.hiddenKind', { kind: label.toLowerCase() })
})
</script>

<template>
  <EditorDrawer :title="title" :at="`blocks/${block.key}/${block.kind}`" @close="emit('close')">
    <template #tools>
      <ToolButton
        v-tooltip.bottom="$t('arrange.duplicateD')"
        :icon="CopyPlus"
        :label="$t('arrange.duplicate')"
        @click="emit('duplicate')"
      />
      <ToolButton
        v-tooltip.bottom="$t('arrange.toTheTop')"
        :icon="ArrowUpToLine"
        :label="$t('arrange.toTheTop')"
        :disabled="first"
        @click="emit('top')"
      />
      <ToolButton
        v-tooltip.bottom="$t('arrange.toTheBottom')"
        :icon="ArrowDownToLine"
        :label="$t('arrange.toTheBottom')"
        :disabled="last"
        @click="emit('bottom')"
      />
    </template>
    <component :is="kind?.editor" :block="block" />
    <OwnLooks v-if="kind?.styled" :block="block" />
    <ShowingFields :block="block" />
    <details v-if="!kind?.still && !kind?.form" class="solo" :open="!!block.gate">
      <summary>{{ $t('arrange.gateOfBlock') }}</summary>
      <div class="gate">
        <GateFields :model-value="block.gate" :locks="kind?.locks" @update:model-value="setGate" />
      </div>
    </details>
    <details v-if="!kind?.still" class="solo" @toggle="soloOpen = ($event.target as HTMLDetailsElement).open">
      <summary>{{ $t('arrange.soloForAWhile') }}</summary>
      <p class="soft">{{ $t('arrange.soloSays') }}</p>
      <TakeoverForm v-if="soloOpen" :solo="block.key" />
    </details>
    <ToAnotherPage :block="block" @close="emit('close')" />
    <SourceClicks v-if="figures" :figures="figures" :lanes="lanes" />
    <template #footer>
      <Button :label="$t('arrange.delete')" severity="danger" text @click="emit('remove')" />
      <Button severity="secondary" @click="emit('toggle')">
        <EyeOff v-if="block.shown" :size="16" aria-hidden="true" /><Eye
          v-else
          :size="16"
          aria-hidden="true"
        />{{ block.shown ? $t('arrange.hide') : $t('arrange.show') }}
      </Button>
    </template>
  </EditorDrawer>
</template>

<style scoped>
.solo {
  border-top: 1px solid var(--line);
  padding-top: 12px;
}
.solo summary {
  font-weight: 600;
  font-size: 0.9rem;
  cursor: pointer;
}
.gate {
  display: grid;
  gap: 12px;
  margin-top: 12px;
}
.solo > p {
  margin: 12px 0;
}
</style>
