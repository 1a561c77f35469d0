<script setup lang="ts">
import { Archive, ArchiveRestore, Copy, Pencil } from '@lucide/vue'
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { useNow } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, nextTick, ref } from 'vue'
import { api, take, type Source } from '@/api/client'
import { ago, count } from '@/figures'
import { useCopy } from '@/shell/useCopy'

const props = defineProps<{ page: string; source: Source; colour: string; visits: number }>()

const copy = useCopy()
const client = useQueryClient()
const now = useNow({ interval: 5_000 })
const editing = ref(false)
const name = ref('')
const tag = ref('')

const seen = computed(() =>
  props.source.seenAt ? `seen ${ago(new Date(props.source.seenAt), now.value)}` : 'not seen yet',
)

const change = useMutation({
  mutationFn: (body: { name?: string; tag?: string; retired?: boolean }) =>
    take(
      api.PATCH('/api/pages/{page}/sources/{source}', {
        params: { path: { page: props.page, source: props.source.id } },
        body,
      }),
    ),
  onSuccess: (all) => {
    editing.value = false
    client.setQueryData(['sources', props.page], all)
  },
})

async function edit() {
  change.reset()
  name.value = props.source.name
  tag.value = props.source.tag
  editing.value = true
  await nextTick()
  document.getElementById(`name-${props.source.id}`)?.focus()
}

function keep() {
  change.mutate({
    name: name.value === props.source.name ? undefined : name.value,
    tag: tag.value === props.source.tag ? undefined : tag.value,
  })
}
</script>

<template>
  <tr v-if="!editing" class="source">
    <td class="who">
      <span class="swatch" :style="{ background: colour }" aria-hidden="true"></span>{{ source.name }}
    </td>
    <td class="where">
      <code>{{ source.entryAddress.replace(/^https?:\/\//, '') }}</code>
      <Button
        class="copy"
        size="small"
        severity="secondary"
        :aria-label="`Copy the address for ${source.name}`"
        @click="copy(source.entryAddress, `The address for ${source.name}`)"
      >
        <Copy aria-hidden="true" /> Copy
      </Button>
      <p v-if="source.pastTags.length" class="small soft">
        Earlier tags still work: {{ source.pastTags.join(', ') }}
      </p>
    </td>
    <td class="number"><span class="word">Visits, 28 days </span>{{ count(visits) }}</td>
    <td class="seen" :class="{ never: !source.seenAt }" aria-live="polite">{{ seen }}</td>
    <td class="tools">
      <button
        v-tooltip.top="'Rename or change the tag'"
        class="tool"
        type="button"
        :aria-label="`Change ${source.name}`"
        @click="edit"
      >
        <Pencil aria-hidden="true" />
      </button>
      <button
        v-tooltip.top="
          source.retired ? 'Take it back into use' : 'Retire: keeps its figures, leaves the lists'
        "
        class="tool"
        type="button"
        :aria-label="`${source.retired ? 'Take back' : 'Retire'} ${source.name}`"
        @click="change.mutate({ retired: !source.retired })"
      >
        <ArchiveRestore v-if="source.retired" aria-hidden="true" /><Archive v-else aria-hidden="true" />
      </button>
    </td>
  </tr>
  <tr v-else class="source">
    <td colspan="5">
      <form class="edit" @submit.prevent="keep" @keydown.esc="editing = false">
        <div class="field">
          <label :for="`name-${source.id}`">Name</label>
          <InputText :id="`name-${source.id}`" v-model="name" maxlength="60" />
        </div>
        <div class="field">
          <label :for="`tag-${source.id}`">Tag</label>
          <InputText
            :id="`tag-${source.id}`"
            v-model="tag"
            maxlength="20"
            autocapitalize="none"
            autocomplete="off"
            spellcheck="false"
          />
        </div>
        <Button type="submit" label="Keep" :loading="change.isPending.value" />
        <Button label="Cancel" severity="secondary" text @click="editing = false" />
        <p class="hint small soft">
          A changed tag needs pasting again; the old one goes on naming this source.
        </p>
        <p v-if="change.error.value" class="wrong" role="alert">{{ change.error.value.message }}</p>
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
  font-weight: 600;
  white-space: nowrap;
}
.swatch {
  display: inline-block;
  width: 12px;
  height: 12px;
  border-radius: 50%;
  margin-right: 10px;
  vertical-align: -1px;
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
