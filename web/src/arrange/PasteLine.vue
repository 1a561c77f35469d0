<script setup lang="ts">
import { CornerDownLeft } from '@lucide/vue'
import { computed, ref } from 'vue'
import { api, take, type Block, type Pasted } from '@/api/client'
import { kindOf } from '@/kinds/registry'
import { titleOf } from '@/page/blockWords'
import { usePageStore } from '@/page/pageStore'
import PastedLines from './PastedLines.vue'

/**
 * Paste or type addresses, numbers, mailboxes: the right blocks appear at once,
 * their titles and pictures follow. Several lines are shown first, and added in
 * one step.
 */
const emit = defineEmits<{ added: [block: Block] }>()

const page = usePageStore()
const text = ref('')
const wrong = ref('')
const busy = ref(false)
const fetching = ref(0)
/** The title of a block that leads to the same destination already. */
const twin = ref<string>()
/** Several lines, as they were understood, to be looked at before they are added. */
const several = ref<Pasted[]>()

const says = computed(() => {
  if (wrong.value) return wrong.value
  if (twin.value) return `Added. “${twin.value}” leads to the same address.`
  return fetching.value ? 'Asking the site for its title and picture…' : ''
})

function find(key: string | undefined) {
  return page.document?.blocks.find((block) => block.key === key)
}

async function add(given = text.value) {
  if (!given.trim() || busy.value) return
  forget()
  busy.value = true
  try {
    const lines = await page.readPaste(given)
    if (lines.length > 1) {
      several.value = lines
      return
    }
    const [line] = lines
    if (!line?.block) throw new Error(line?.says ?? 'There is no address in this.')
    // What was typed in the meantime stays.
    if (text.value === given) text.value = ''
    twin.value = titleOf(find(line.already[0])) || undefined
    place([line])
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    busy.value = false
  }
}

/** Adds what was understood, in one step, and asks the sites about themselves beside. */
function place(lines: Pasted[]) {
  const blocks = lines.flatMap((line) => line.block ?? [])
  const [first] = blocks
  if (!first) return
  page.change(
    blocks.length > 1 ? `Add ${blocks.length} blocks` : `Add “${titleOf(first)}”`,
    (draft) => void draft.blocks.push(...blocks),
  )
  emit('added', first)
  for (const line of lines) if (line.block?.button) void describe(line.block, line.titled)
}

function placeSeveral(lines: Pasted[]) {
  several.value = undefined
  text.value = ''
  place(lines)
}

/** Fills in what the site says of itself, unless a title was given or changed meanwhile. */
async function describe(block: Block, titled: boolean) {
  const given = block.button
  if (!given) return
  fetching.value++
  try {
    const found = await take(api.POST('/api/describe', { body: { address: given.address } }))
    if (!found.title && !found.picture) return
    page.fillIn(block.key, ({ button }) => {
      if (!button) return
      if (found.title && !titled && button.title === given.title) button.title = found.title
      if (found.picture && !button.picture && !button.icon && !button.emoji) button.picture = found.picture
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

function onPaste(event: ClipboardEvent) {
  const pasted = event.clipboardData?.getData('text') ?? ''
  if (/\S[\r\n]+\s*\S/.test(pasted)) {
    // A field of one line would run them together.
    event.preventDefault()
    void add(pasted)
    return
  }
  // Once the field holds what was pasted.
  setTimeout(add)
}

const twinOf = (line: Pasted) => titleOf(find(line.already[0]))
const kindWords = (line: Pasted) => (line.block ? (kindOf(line.block)?.label ?? '') : '')
</script>

<template>
  <form class="paste" @submit.prevent="add()">
    <label class="visually-hidden" for="paste-line">Paste an address to add a button</label>
    <input
      id="paste-line"
      v-model="text"
      class="line"
      placeholder="Paste addresses, numbers, mailboxes"
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
    <PastedLines
      v-if="several"
      :lines="several"
      :twin-of="twinOf"
      :kind-words="kindWords"
      @cancel="several = undefined"
      @add="placeSeveral"
    />
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
