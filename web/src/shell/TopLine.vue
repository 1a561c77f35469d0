<script setup lang="ts">
import { Copy, ExternalLink } from '@lucide/vue'
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Select from 'primevue/select'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { pagesQuery } from '@/api/queries'
import { usePageStore } from '@/page/pageStore'
import { ownPassage, useSession } from '@/session'
import PublishDialog from './PublishDialog.vue'
import { useCopy } from './useCopy'

const page = usePageStore()
const session = useSession()
const route = useRoute()
const router = useRouter()
const copy = useCopy()
const { data: pages } = useQuery(pagesQuery())
const publishing = ref(false)

const address = computed(() =>
  page.state && session.me ? `${session.me.publicOrigin}/${page.state.address}` : '',
)
const choices = computed(() =>
  (pages.value ?? []).map((each) => ({
    id: each.id,
    label: (each.id === page.state?.id ? page.document?.header.name : each.name) || each.address,
  })),
)
const savingWords = computed(() => {
  switch (page.saving) {
    case 'saving': return 'saving…'
    case 'waiting': return 'not saved yet, trying again'
    case 'refused': return 'not saved'
    default: return ''
  }
}) // prettier-ignore
const standing = computed(() => {
  if (!page.state) return ''
  const { liveEdition, changes } = page.state
  if (liveEdition === 0) return 'not published yet'
  const waiting =
    changes.length === 0
      ? 'nothing waiting'
      : `${changes.length} ${changes.length === 1 ? 'change' : 'changes'} waiting`
  return `live, edition ${liveEdition}, ${waiting}`
})

function choose(id: string) {
  void router.push({ name: route.name ?? 'arrange', params: { page: id } })
}
</script>

<template>
  <header class="top">
    <Select
      v-if="choices.length > 1"
      class="switch"
      :model-value="page.state?.id"
      :options="choices"
      option-value="id"
      option-label="label"
      aria-label="Page"
      @update:model-value="choose"
    />
    <strong v-else class="only">{{ choices[0]?.label }}</strong>
    <div v-if="page.state && session.me" class="address">
      <span class="url">{{ address.replace(/^https?:\/\//, '') }}</span>
      <button
        v-tooltip.bottom="'Copy the address'"
        class="tool"
        type="button"
        aria-label="Copy the address"
        @click="copy(address, 'The address')"
      >
        <Copy aria-hidden="true" />
      </button>
      <a
        v-if="page.state.liveEdition > 0"
        v-tooltip.bottom="'Open the page; your own visits are not counted'"
        class="tool"
        :href="ownPassage(session.me, page.state.address)"
        target="_blank"
        rel="noopener"
        aria-label="Open the page"
        ><ExternalLink aria-hidden="true"
      /></a>
    </div>
    <p class="standing" role="status">
      <span class="lamp" :class="{ lit: (page.state?.liveEdition ?? 0) > 0 }" aria-hidden="true"></span>
      {{ standing
      }}<template v-if="savingWords">
        · <span :class="{ amber: page.saving !== 'saving' }">{{ savingWords }}</span></template
      >
    </p>
    <Button
      class="publish"
      label="Publish"
      :disabled="!page.loaded || page.state?.changes.length === 0"
      @click="publishing = true"
    />
    <PublishDialog v-model:visible="publishing" />
  </header>
</template>

<style scoped>
.top {
  grid-column: 2;
  display: flex;
  align-items: center;
  gap: 8px 18px;
  padding: 0 28px;
  border-bottom: 1px solid var(--line);
  background: var(--sheet);
  position: sticky;
  top: 0;
  height: var(--top);
  z-index: 10;
}
.switch {
  max-width: 17rem;
}
.only {
  font-family: var(--font-head);
  font-size: 1.05rem;
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
.amber {
  color: var(--amber);
  font-weight: 600;
}
@media (max-width: 720px) {
  .top {
    grid-column: 1;
    flex-wrap: wrap;
    height: auto;
    padding: 8px 14px;
    gap: 4px 10px;
  }
  .switch,
  .only {
    flex: 1 1 calc(100% - 110px);
    min-width: 0;
    max-width: none;
  }
  .publish {
    order: 2;
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
