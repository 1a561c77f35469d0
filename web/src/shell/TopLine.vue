<script setup lang="ts">
import { Copy, ExternalLink, ListChecks, SlidersHorizontal } from '@lucide/vue'
import Button from 'primevue/button'
import { computed } from 'vue'
import ToolButton from '@/fields/ToolButton.vue'
import { t } from '@/i18n'
import { usePageStore } from '@/page/pageStore'
import { ownPassage, useSession } from '@/session'
import PageSwitcher from './PageSwitcher.vue'
import PublishDialog from './PublishDialog.vue'
import UndoRedo from './UndoRedo.vue'
import { useCopy } from './useCopy'
import { usePublishing } from './usePublishing'

const emit = defineEmits<{ choose: [page: string] }>()
const page = usePageStore()
const session = useSession()
const copy = useCopy()
const publishing = usePublishing()

const address = computed(() =>
  page.state && session.me ? `${session.me.pageOrigin}/${page.state.address}` : '',
)
const savingWords = computed(() => {
  switch (page.saving) {
    case 'saving': return t('shell.saving')
    case 'waiting': return t('shell.notSavedYet')
    case 'refused': return page.refusals.length > 0 ? t('shell.savedBut') : t('shell.notSaved')
    case 'conflict': return t('shell.notSavedChooseBelow')
    default: return ''
  }
}) // prettier-ignore
const isLive = computed(
  () => !!page.state?.liveEdition && !page.state.resting && !page.state.deleteAt && !page.state.takenDown,
)
const standing = computed(() => {
  if (!page.state) return ''
  const { liveEdition, changes } = page.state
  if (liveEdition === 0) return t('shell.notPublishedYet')
  if (page.state.deleteAt || page.state.takenDown) return t('shell.takenDown')
  const waiting = changes.length === 0 ? t('shell.nothingWaiting') : t('shell.changesWaiting', changes.length)
  if (page.state.asEdited && !page.state.resting)
    return t('shell.liveAsEdited', {
      edition: liveEdition,
      waiting: changes.length === 0 ? t('shell.nothingWaiting') : t('shell.goingLive'),
    })
  if (page.state.resting) return t('shell.restingEdition', { edition: liveEdition, waiting })
  return t('shell.liveEdition', { edition: liveEdition, waiting })
})
</script>

<template>
  <header class="top">
    <PageSwitcher @choose="emit('choose', $event)" />
    <div v-if="page.state && session.me" class="address">
      <span class="url">{{ address.replace(/^https?:\/\//, '') }}</span>
      <ToolButton
        v-tooltip.bottom="$t('common.copyTheAddress')"
        :icon="Copy"
        :label="$t('common.copyTheAddress')"
        @click="copy(address, $t('shell.theAddress'))"
      />
      <a
        v-if="page.state.liveEdition > 0"
        v-tooltip.bottom="$t('shell.openThePageYourOwn')"
        class="tool"
        :href="ownPassage(session.me, page.state.address)"
        target="_blank"
        rel="noopener"
        :aria-label="$t('shell.openThePage')"
        ><ExternalLink aria-hidden="true"
      /></a>
    </div>
    <RouterLink
      v-if="page.state"
      v-tooltip.bottom="$t('shell.itsAddressAndTheTags')"
      class="tool about"
      :to="{ name: 'page-settings', params: { page: page.state.id } }"
      :aria-label="$t('shell.aboutThisPage')"
      ><SlidersHorizontal aria-hidden="true"
    /></RouterLink>
    <UndoRedo class="history" />
    <p class="standing" role="status">
      <span class="lamp" :class="{ lit: isLive }" aria-hidden="true"></span>
      <RouterLink
        v-if="page.state && page.state.liveEdition > 0"
        v-tooltip.bottom="$t('shell.editionsTip')"
        class="editions"
        :to="{ name: 'editions', params: { page: page.state.id } }"
        >{{ standing }}</RouterLink><template v-else>{{ standing }}</template
      ><template v-if="savingWords">
        · <span :class="{ amber: page.saving !== 'saving' }">{{ savingWords }}</span></template
      >
    </p>
    <RouterLink v-if="page.state" class="check" :to="{ name: 'check', params: { page: page.state.id } }"
      ><ListChecks aria-hidden="true" /><span>{{ $t('shell.check') }}</span></RouterLink
    >
    <Button
      class="publish"
      :label="page.state?.asEdited ? $t('shell.asEdited') : $t('shell.publish')"
      :severity="page.state?.asEdited ? 'secondary' : undefined"
      :disabled="!page.loaded || (page.state?.changes.length === 0 && !page.state.asEdited)"
      @click="publishing = true"
    />
    <PublishDialog v-model:visible="publishing" />
  </header>
</template>

<style scoped>
.top {
  display: flex;
  align-items: center;
  gap: 8px 18px;
  padding: 0 28px;
  border-bottom: 1px solid var(--line);
  background: var(--surface);
  height: var(--top);
}
.address {
  display: flex;
  align-items: center;
  gap: 2px;
  min-width: 0;
}
.url {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  color: var(--ink-soft);
  margin-right: 4px;
}
.about {
  margin-left: -16px;
}
.standing {
  margin-left: auto;
  color: var(--ink-soft);
  font-size: 0.9rem;
  display: flex;
  align-items: center;
  gap: 7px;
  white-space: nowrap;
}
.lamp {
  width: 9px;
  height: 9px;
  border-radius: 50%;
  border: 2px solid var(--line-strong);
}
.lamp.lit {
  border-color: #009e73;
  background: #009e73;
}
.editions {
  color: inherit;
  text-decoration-color: var(--line-strong);
  text-underline-offset: 3px;
}
.check {
  display: flex;
  align-items: center;
  gap: 7px;
  padding: 8px 4px;
  font-weight: 600;
  text-decoration: none;
}
.check svg {
  width: 18px;
  height: 18px;
}
.amber {
  color: var(--amber);
  font-weight: 600;
}
@media (max-width: 720px) {
  .top {
    flex-wrap: wrap;
    height: auto;
    padding: 8px 14px;
    gap: 4px 10px;
  }
  .about {
    margin: 0;
  }
  .check,
  .history {
    order: 1;
  }
  .publish {
    order: 2;
  }
  .check {
    padding: 8px;
  }
  .check span {
    position: absolute;
    width: 1px;
    height: 1px;
    overflow: hidden;
    clip-path: inset(50%);
  }
  .standing {
    order: 3;
    margin: 0;
    flex: 1;
    font-size: 0.85rem;
  }
  .address {
    order: 4;
  }
  .url {
    display: none;
  }
}
</style>
