<script setup lang="ts">
import { CornerDownLeft } from '@lucide/vue'
import { computed, ref } from 'vue'
import { api, take, type Block } from '@/api/client'
import { usePageStore } from '@/page/pageStore'

/** Paste or type an address: the block appears at once, its title and picture follow. */
const emit = defineEmits<{ added: [block: Block] }>()

const page = usePageStore()
const text = ref('')
const wrong = ref('')
const busy = ref(false)
const fetching = ref(0)
/** The title of a button that leads to the same destination already. */
const twin = ref<string>()

const says = computed(() => {
  if (wrong.value) return wrong.value
  if (twin.value) return `Added. “${twin.value}” leads to the same address.`
  return fetching.value ? 'Asking the site for its title and picture…' : ''
})

function titleOf(key: string | undefined) {
  return page.document?.blocks.find((block) => block.key === key)?.button?.title
}

async function add() {
  if (!text.value.trim() || busy.value) return
  forget()
  busy.value = true
  try {
    const given = text.value
    const { block, already } = await page.readPaste(given)
    // What was typed in the meantime stays.
    if (text.value === given) text.value = ''
    twin.value = titleOf(already[0])
    page.change(`Add “${block.button?.title}”`, (draft) => draft.blocks.push(block))
    emit('added', block)
    void describe(block)
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    busy.value = false
  }
}

/** Fills in what the site says of itself, unless the title was changed meanwhile. */
async function describe(block: Block) {
  const given = block.button
  if (!given) return
  fetching.value++
  try {
    const found = await take(api.POST('/api/describe', { body: { address: given.address } }))
    if (!found.title && !found.picture) return
    page.fillIn(block.key, ({ button }) => {
      if (!button) return
      if (found.title && button.title === given.title) button.title = found.title
      if (found.picture && !button.picture) button.picture = found.picture
    })
  } catch {
    // The title made from the host stays, ready to be edited.
  } finally {
    fetching.value--
  }
}

function forget() {
  wrong.value = ''
  twin.value = undefined
}

function onPaste() {
  // Once the field holds what was pasted.
  setTimeout(add)
}
</script>

<template>
  <form class="paste" @submit.prevent="add">
    <label class="visually-hidden" for="paste-line">Paste an address to add a button</label>
    <input
      id="paste-line"
      v-model="text"
      class="line"
      placeholder="Paste an address to add a button"
      inputmode="url"
      autocapitalize="none"
      autocomplete="off"
      spellcheck="false"
      :aria-invalid="!!wrong"
      aria-describedby="paste-says"
      @paste="onPaste"
      @input="forget"
    />
    <button class="tool go" type="submit" aria-label="Add the button">
      <CornerDownLeft aria-hidden="true" />
    </button>
    <p id="paste-says" class="says" :role="wrong ? 'alert' : 'status'" :class="{ wrong }">
      {{ says }}
    </p>
  </form>
</template>

<style scoped>
.paste {
  position: relative;
}
.line {
  width: 100%;
  height: 42px;
  padding: 0 42px 0 14px;
  font: inherit;
  color: var(--ink);
  background: var(--sheet);
  border: 1.5px solid var(--accent);
  border-radius: 6px;
}
.line::placeholder {
  color: var(--ink-soft);
  opacity: 1;
}
.go {
  position: absolute;
  right: 7px;
  top: 7px;
}
.says {
  position: absolute;
  top: 46px;
  left: 0;
  right: -60px;
  z-index: 4;
  font-size: 0.87rem;
}
.says:not(:empty) {
  padding: 6px 12px;
  border-radius: 4px;
  background: var(--sheet);
  border: 1px solid var(--line);
  color: var(--ink-soft);
  box-shadow: 0 4px 14px rgb(0 0 0 / 12%);
}
.says.wrong {
  border-color: var(--danger);
  color: var(--danger);
}
@media (max-width: 720px) {
  .says {
    right: 0;
  }
}
</style>
