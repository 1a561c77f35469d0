<script setup lang="ts">
import { CornerDownLeft } from '@lucide/vue'
import { computed, onMounted, ref, shallowRef, useTemplateRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, take, type Block, type Pasted } from '@/api/client'
import ToolButton from '@/fields/ToolButton.vue'
import { t } from '@/i18n'
import { kindOf } from '@/kinds/registry'
import { useTyped } from '@/fields/useTyped'
import { titleOf } from '@/page/blockWords'
import { usePageStore } from '@/page/pageStore'
import { noRoom } from './useBlocks'
import PastedLines from './PastedLines.vue'

/**
 * Paste or type addresses, numbers, mailboxes: the right blocks appear at once,
 * their titles and pictures follow. Several lines are shown first, and added in
 * one step.
 */
const emit = defineEmits<{ added: [block: Block] }>()

const page = usePageStore()
/** The page this line stands on; what is on its way lands there, whichever is open by then. */
const copy = page.opened()
const text = useTyped(`paste-line/${copy?.id}`)
const wrong = ref('')
const fetching = ref(0)
/** What was pasted and is not read yet, in turn. */
const waiting = ref<string[]>([])
const reading = ref(false)
/** The title of a block that leads to the same destination already. */
const twin = ref<string>()
/** Several lines, as they were understood, to be looked at before they are added. */
const several = shallowRef<{ given: string; lines: Pasted[] }>()

/** What another app shared with the studio stands in the line, to be looked at before it is added. */
const route = useRoute()
const router = useRouter()
const line = useTemplateRef<HTMLInputElement>('line')
onMounted(() => {
  const { paste, ...query } = route.query
  if (typeof paste !== 'string') return
  if (paste) text.value = paste
  line.value?.focus()
  void router.replace({ query })
})

const says = computed(() => {
  if (wrong.value) return wrong.value
  if (waiting.value.length > 0) return t('arrange.readingWhatWasPastedMore', { n: waiting.value.length })
  if (reading.value) return t('arrange.readingWhatWasPasted')
  if (twin.value) return t('arrange.addedLeadsToTheSame', { title: twin.value })
  return fetching.value ? t('arrange.askingTheSite') : ''
})

function find(key: string | undefined) {
  return copy?.document.blocks.find((block) => block.key === key)
}

/** Reads what was given once all before it is read, and looked at where it is several lines. */
async function add(given = text.value) {
  if (!given.trim()) return
  forget()
  if (text.value === given) text.value = ''
  waiting.value.push(given === back.shown ? back.given : given)
  await readNext()
}

async function readNext() {
  if (reading.value || several.value) return
  const given = waiting.value.shift()
  if (given === undefined) return
  reading.value = true
  try {
    await read(given)
  } catch (error) {
    wrong.value = (error as Error).message
    giveBack(given)
  } finally {
    reading.value = false
  }
  await readNext()
}

async function read(given: string) {
  const lines = await page.readPaste(given, copy?.id ?? '')
  if (lines.length > 1 || lines[0]?.unsure) {
    several.value = { given, lines }
    return
  }
  const [line] = lines
  if (!line?.block) throw new Error(line?.message ?? t('arrange.thereIsNoAddress'))
  twin.value = titleOf(find(line.already[0])) || undefined
  place([line])
}

/** Several lines that were given back, and how they look on one. */
let back = { shown: '', given: '' }

/** What could not be added stands in the line again, unless something else does by now. */
function giveBack(given: string) {
  if (text.value) return
  text.value = given.trim().replace(/\s*[\r\n]+\s*/g, ' ')
  back = { shown: text.value, given }
}

/** Adds what was understood, in one step, and asks the sites about themselves beside. */
function place(lines: Pasted[]) {
  const blocks = lines.flatMap((line) => line.block ?? [])
  const [first] = blocks
  if (!first) return
  const [there, most] = [copy?.document.blocks.length ?? 0, copy?.autosave.state.limits.blocks ?? 0]
  if (there + blocks.length > most) throw new Error(noRoom(there, blocks.length, most))
  copy?.change(
    blocks.length > 1
      ? t('arrange.addBlocks', blocks.length)
      : t('arrange.addTitle', { title: titleOf(first) }),
    (draft) => void draft.blocks.push(...blocks),
  )
  emit('added', first)
  for (const line of lines) if (line.block?.button) void describe(line.block, line.titled)
}

function placeSeveral(lines: Pasted[]) {
  const given = several.value?.given ?? ''
  several.value = undefined
  try {
    place(lines)
  } catch (error) {
    wrong.value = (error as Error).message
    giveBack(given)
  }
  void readNext()
}

function cancelSeveral() {
  giveBack(several.value?.given ?? '')
  several.value = undefined
  void readNext()
}

/** Fills in what the site says of itself, unless a title was given or changed meanwhile. */
async function describe(block: Block, titled: boolean) {
  const given = block.button
  if (!given) return
  fetching.value++
  try {
    const found = await take(api.POST('/api/describe', { body: { address: given.address } }))
    if (found.feed) {
      await takeIn(block, titled)
      return
    }
    if (!found.title && !found.picture) return
    const make = (block: Block) => {
      const { button } = block
      if (!button) return
      if (found.player && button.title === given.title) {
        // What is there is a film or a sound: it is played on the page.
        block.kind = 'player'
        block.player = found.player
        if (titled) block.player.title = button.title
        delete block.button
        return
      }
      if (found.title && !titled && button.title === given.title) button.title = found.title
      if (found.picture && !button.picture && !button.icon && !button.emoji) button.picture = found.picture
    }
    copy?.fillIn(block.key, make)
  } catch {
    // The title made from the host stays, ready to be edited.
  } finally {
    fetching.value--
  }
}

/** What leads to a feed shows what is in it. */
async function takeIn(block: Block, titled: boolean) {
  const given = block.button
  const feed = await take(api.POST('/api/feeds', { body: { address: given?.address ?? '' } }))
  copy?.fillIn(block.key, (there) => {
    if (!there.button || there.button.title !== given?.title) return
    there.kind = 'feed'
    there.feed = {
      title: titled ? there.button.title : feed.title,
      feedId: feed.id,
      address: feed.address,
      most: 3,
    }
    delete there.button
  })
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
    <label class="visually-hidden" for="paste-line">{{ $t('arrange.pasteAnAddressToAdd') }}</label>
    <input
      id="paste-line"
      ref="line"
      v-model="text"
      class="line"
      :placeholder="$t('arrange.pasteAddressesNumbersMailboxes')"
      inputmode="url"
      autocapitalize="none"
      autocomplete="off"
      spellcheck="false"
      :aria-invalid="!!wrong"
      aria-describedby="paste-says"
      @paste="onPaste"
      @input="forget"
    />
    <ToolButton class="go" :icon="CornerDownLeft" :label="$t('arrange.addTheButton')" type="submit" />
    <p id="paste-says" class="message" :role="wrong ? 'alert' : 'status'" :class="{ wrong }">
      {{ says }}
    </p>
    <PastedLines
      v-if="several"
      :lines="several.lines"
      :twin-of="twinOf"
      :kind-words="kindWords"
      @cancel="cancelSeveral"
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
  background: var(--surface);
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
.message {
  position: absolute;
  top: 46px;
  left: 0;
  right: -60px;
  z-index: 4;
  font-size: 0.87rem;
}
.message:not(:empty) {
  padding: 6px 12px;
  border-radius: 4px;
  background: var(--surface);
  border: 1px solid var(--line);
  color: var(--ink-soft);
  box-shadow: 0 4px 14px rgb(0 0 0 / 12%);
}
.message.wrong {
  border-color: var(--danger);
  color: var(--danger);
}
@media (max-width: 720px) {
  .message {
    top: auto;
    bottom: 48px;
    right: 0;
  }
}
</style>
