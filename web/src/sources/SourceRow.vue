<script setup lang="ts">
import { Archive, ArchiveRestore, Copy, Pencil, QrCode } from '@lucide/vue'
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { useNow } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, nextTick, ref } from 'vue'
import { api, take, type Place, type ReadingsView, type Source } from '@/api/client'
import KeepRow from '@/fields/KeepRow.vue'
import { sameName } from '@/fields/sameName'
import ToolButton from '@/fields/ToolButton.vue'
import WrongText from '@/fields/WrongText.vue'
import { ago, count, rateText, rateWords } from '@/figures'
import { t } from '@/i18n'
import IconDrawing from '@/pictures/IconDrawing.vue'
import { useCopy } from '@/shell/useCopy'
import { useUndo } from '@/shell/useUndo'
import PlaceFields from './PlaceFields.vue'
import { kindLabel } from './places'

const props = defineProps<{
  page: string
  source: Source
  /** All sources of the page. */
  others: Source[] | undefined
  colour: string
  figures: ReadingsView['total'] | undefined
}>()

const copy = useCopy()
const offerUndo = useUndo()
const client = useQueryClient()
const now = useNow({ interval: 5_000 })
const editing = ref(false)
const name = ref('')
const tag = ref('')
const placeOf = ({ kind, medium, profiles, names, networks }: Source): Place => ({
  kind, medium, profiles, names, networks,
}) // prettier-ignore
const place = ref(placeOf(props.source))

const twin = computed(() =>
  sameName(
    editing.value ? name.value : props.source.name,
    props.others?.filter(({ id }) => id !== props.source.id),
  ),
)
const described = computed(() => {
  const kind = kindLabel(props.source.kind)
  return kind.toLowerCase() === props.source.medium ? kind : `${kind} · ${props.source.medium}`
})
const seen = computed(() =>
  props.source.seenAt
    ? t('sources.seenAgo', { ago: ago(new Date(props.source.seenAt), now.value) })
    : t('sources.notSeenYet'),
)

const change = useMutation({
  mutationFn: (body: { name?: string; tag?: string; retired?: boolean; place?: Place }) =>
    take(
      api.PATCH('/api/pages/{page}/sources/{source}', {
        params: { path: { page: props.page, source: props.source.id } },
        body,
      }),
    ),
  onSuccess: async () => {
    await client.invalidateQueries({ queryKey: ['sources', props.page] })
    editing.value = false
  },
})

/** It holds for visitors at once: the address goes on leading to the page. */
async function retire(retired: boolean) {
  const { name } = props.source
  await change.mutateAsync({ retired }).then(
    () =>
      offerUndo(retired ? t('sources.isRetired', { name }) : t('sources.isInUse', { name }), () =>
        change.mutateAsync({ retired: !retired }),
      ),
    () => undefined, // said beside the row
  )
}

async function edit() {
  change.reset()
  name.value = props.source.name
  tag.value = props.source.tag
  place.value = placeOf(props.source)
  editing.value = true
  await nextTick()
  document.getElementById(`name-${props.source.id}`)?.focus()
}

function keep() {
  change.mutate({
    name: name.value === props.source.name ? undefined : name.value,
    tag: tag.value === props.source.tag ? undefined : tag.value,
    place: place.value,
  })
}
</script>

<template>
  <tr v-if="!editing" class="source">
    <td class="who">
      <span class="icon" :style="{ '--colour': colour }"><IconDrawing :icon="source.icon" :size="17" /></span>
      <span
        ><strong>{{ source.name }}</strong
        ><span class="kind">{{ described }}</span
        ><span v-if="twin" class="twin">{{ $t('sources.anotherIsCalledThatToo') }}</span></span
      >
    </td>
    <td class="where">
      <code>{{ source.entryAddress.replace(/^https?:\/\//, '') }}</code>
      <span class="acts">
        <Button
          class="copy"
          size="small"
          severity="secondary"
          :aria-label="$t('sources.copyTheAddressFor', { name: source.name })"
          @click="copy(source.entryAddress, $t('sources.theAddressFor', { name: source.name }))"
        >
          <Copy aria-hidden="true" /> {{ $t('common.copy') }}
        </Button>
        <RouterLink
          v-tooltip.top="$t('sources.codeToPrint')"
          class="tool"
          :to="{ name: 'source', params: { page, source: source.id } }"
          :aria-label="$t('sources.codeAndStepsFor', { name: source.name })"
        >
          <QrCode aria-hidden="true" />
        </RouterLink>
      </span>
      <p v-if="source.pastTags.length" class="small soft">
        {{ $t('sources.earlierTags', { tags: source.pastTags.join(', ') }) }}
      </p>
    </td>
    <td class="number visits">
      <span class="word">{{ $t('sources.visits28Days') }}</span> {{ count(figures?.visits ?? 0) }}
    </td>
    <td class="number rate">
      <span v-if="figures?.visits" v-tooltip.top="rateWords(figures.clickThrough, 'ofVisitsAny')">{{
        rateText(figures.clickThrough)
      }}</span>
      <span v-else :aria-label="$t('sources.noVisitsYet')">–</span>
    </td>
    <td class="seen" :class="{ never: !source.seenAt }">{{ seen }}</td>
    <td class="tools">
      <ToolButton
        v-tooltip.top="$t('sources.changeIt')"
        :icon="Pencil"
        :label="$t('sources.changeSource', { name: source.name })"
        @click="edit"
      />
      <ToolButton
        v-tooltip.top="
          source.retired ? $t('sources.takeItBackIntoUse') : $t('sources.retireKeepsItsFiguresLeaves')
        "
        :icon="source.retired ? ArchiveRestore : Archive"
        :label="`${source.retired ? $t('sources.takeBack') : $t('sources.retire')} ${source.name}`"
        @click="retire(!source.retired)"
      />
    </td>
  </tr>
  <tr v-else class="source">
    <td colspan="6">
      <form class="edit" @submit.prevent="keep" @keydown.esc="editing = false">
        <div class="field">
          <label :for="`name-${source.id}`">{{ $t('common.name') }}</label>
          <InputText :id="`name-${source.id}`" v-model="name" maxlength="60" />
        </div>
        <div class="field">
          <label :for="`tag-${source.id}`">{{ $t('sources.tag') }}</label>
          <InputText
            :id="`tag-${source.id}`"
            v-model="tag"
            maxlength="20"
            autocapitalize="none"
            autocomplete="off"
            spellcheck="false"
          />
        </div>
        <PlaceFields v-model="place" all />
        <KeepRow :busy="change.isPending.value" @cancel="editing = false" />
        <p class="hint small soft">
          {{ $t('sources.aChangedTagNeedsPasting') }}
        </p>
        <p v-if="twin" class="twin small" role="status">
          {{ $t('sources.anotherSourceIsCalledToo', { name: twin.name }) }}
        </p>
        <WrongText :text="change.error.value?.message" />
      </form>
    </td>
  </tr>
</template>

<style scoped>
td {
  padding: 11px 14px;
  border-bottom: 1px solid var(--line);
  vertical-align: middle;
}
.who {
  white-space: nowrap;
}
.who > span:last-child {
  display: inline-grid;
  vertical-align: middle;
}
.kind {
  color: var(--ink-soft);
  font-size: 0.82rem;
}
.twin {
  color: var(--amber);
  font-size: 0.82rem;
}
.icon {
  display: inline-grid;
  place-items: center;
  width: 32px;
  height: 32px;
  border-radius: 50%;
  margin-right: 12px;
  vertical-align: middle;
  border: 2px solid var(--colour);
  color: var(--ink);
}
.acts {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  vertical-align: middle;
}
code {
  font: inherit;
  color: var(--ink);
  overflow-wrap: anywhere;
  margin-right: 10px;
  display: inline-block;
  min-width: 18rem;
}
.copy svg {
  width: 14px;
  height: 14px;
}
.number {
  text-align: right;
  font-weight: 600;
}
.word {
  display: none;
}
.never {
  color: var(--amber);
  font-weight: 600;
}
.tools {
  text-align: right;
  white-space: nowrap;
}
.edit {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 10px;
}
.edit .hint,
.edit .twin,
.edit .wrong {
  width: 100%;
}
.edit .wrong {
  color: var(--danger);
}
@media (max-width: 720px) {
  tr {
    display: grid;
    grid-template-columns: 1fr auto;
    border-bottom: 1px solid var(--line-strong);
    padding: 8px 0;
  }
  td {
    border: 0;
    padding: 4px 12px;
  }
  .where {
    grid-column: 1 / -1;
    grid-row: 2;
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    justify-content: space-between;
    gap: 6px;
  }
  code {
    min-width: 0;
  }
  .number {
    text-align: left;
    grid-row: 3;
    grid-column: 1;
    font-weight: 400;
  }
  .rate {
    display: none;
  }
  .word {
    display: inline;
    color: var(--ink-soft);
  }
  .seen {
    grid-row: 3;
    grid-column: 2;
    text-align: right;
  }
  .tools {
    grid-row: 1;
    grid-column: 2;
  }
}
</style>
