<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { Pin } from '@lucide/vue'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, take, type Block } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldRange from '@/fields/FieldRange.vue'
import FieldText from '@/fields/FieldText.vue'
import ToolButton from '@/fields/ToolButton.vue'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { newKey } from '@/page/newKey'
import { usePageStore } from '@/page/pageStore'
import { timeHere } from '@/shell/moments'
import { useContent } from './useContent'

/** The newest of what somebody publishes elsewhere: whose it is, how many, and how they look. */
const props = defineProps<{ block: Block }>()
const { content, set, change } = useContent(() => props.block, 'feed')
const page = usePageStore()
const copy = page.opened()
const client = useQueryClient()

const SHOWN = [
  { value: 'rows', label: t('kinds.asRows') },
  { value: 'cards', label: t('kinds.asCards') },
  { value: 'grid', label: t('kinds.asAGrid') },
] as const

const id = computed(() => content.value.feedId)
const { data: feed } = useQuery({
  queryKey: computed(() => ['feed', id.value]),
  queryFn: () => take(api.GET('/api/feeds/{feed}', { params: { path: { feed: id.value ?? '' } } })),
  enabled: computed(() => !!id.value),
})
const there = computed(() => feed.value?.items.filter((item) => !item.gone) ?? [])

const typed = ref(content.value.address ?? '')
const asking = ref(false)
const wrong = ref<string>()

/** Takes the feed in, or asks it again where it is the same. */
async function ask() {
  asking.value = true
  wrong.value = undefined
  try {
    const found = await take(api.POST('/api/feeds', { body: { address: typed.value } }))
    client.setQueryData(['feed', found.id], found)
    typed.value = found.address
    if (found.id !== content.value.feedId)
      change(t('kinds.takeTheFeedIn'), (of) => {
        of.feedId = found.id
        of.address = found.address
        of.title ||= found.title
      })
    else await page.refresh()
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    asking.value = false
  }
}

/** An item becomes a button of its own below, and stays when the feed has gone on. */
function pin(item: (typeof there.value)[number]) {
  const { title, address, picture } = item
  const block: Block = {
    key: newKey(),
    kind: 'button',
    shown: true,
    button: { title, address, picture, shape: picture ? 'card' : 'beside', movement: 'none' },
  }
  copy?.change(t('kinds.pinTitle', { title }), (draft) => {
    const at = draft.blocks.findIndex((each) => each.key === props.block.key)
    draft.blocks.splice(at + 1, 0, block)
  })
}
</script>

<template>
  <FieldText
    v-model="typed"
    :label="$t('kinds.addressOfTheFeed')"
    at="address"
    :maxlength="2048"
    inputmode="url"
    :hint="$t('kinds.feedOrPage')"
  />
  <div class="field">
    <Button
      size="small"
      severity="secondary"
      :label="asking ? $t('arrange.askingTheSite') : feed ? $t('kinds.askItNow') : $t('kinds.lookForTheFeed')"
      :disabled="asking || !typed.trim()"
      @click="ask"
    />
    <WrongText :text="wrong" />
    <p v-if="feed?.problem" class="hint" role="status">
      {{ $t('kinds.feedGaveNoAnswer', { problem: feed.problem, at: timeHere(feed.readAt) }) }}
    </p>
    <p v-else-if="feed" class="hint">
      {{ $t('kinds.feedWasAsked', { at: timeHere(feed.askedAt), next: timeHere(feed.dueAt) }) }}
    </p>
  </div>
  <FieldText
    :label="$t('common.title')"
    at="title"
    :model-value="content.title"
    :maxlength="120"
    @update:model-value="set('title', $event)"
  />
  <FieldRange
    :label="$t('kinds.howManyItems')"
    :model-value="content.most"
    :min="1"
    :max="12"
    @update:model-value="set('most', $event, $t('kinds.howManyItems'))"
  />
  <FieldChoice
    :label="$t('kinds.howItIsShown')"
    :model-value="content.shown ?? 'rows'"
    :options="SHOWN"
    @update:model-value="set('shown', $event, $t('kinds.wayItIsShown'))"
  />
  <div v-if="feed" class="field">
    <span class="label">{{ $t('kinds.inTheFeedNow', { n: there.length }) }}</span>
    <ol class="entries">
      <li v-for="item in there.slice(0, 12)" :key="item.key">
        <span>{{ item.title }}</span>
        <ToolButton :icon="Pin" :label="$t('kinds.pinTitle', { title: item.title })" @click="pin(item)" />
      </li>
    </ol>
    <p class="hint">{{ $t('kinds.whatPinningDoes') }}</p>
  </div>
</template>

<style scoped>
.label {
  font-weight: 600;
  font-size: 0.9rem;
}
.entries {
  margin: 0;
  padding: 0;
  list-style: none;
  border-top: 1px solid var(--line);
}
.entries li {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 10px;
  padding: 3px 0;
  border-bottom: 1px solid var(--line);
  overflow-wrap: anywhere;
}
</style>
