<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref, watch } from 'vue'
import { api, take, type Block } from '@/api/client'
import type { components } from '@/api/generated/schema'
import { count } from '@/figures'
import { usePageStore } from '@/page/pageStore'
import type { Lane } from '@/sourceColours'
import EditorDrawer from './EditorDrawer.vue'

const props = defineProps<{
  block: Block
  place: number
  figures?: components['schemas']['BlockReading']
  /** The from lanes, which the drawer covers, and a phone has no room for. */
  lanes: Lane[]
}>()
const emit = defineEmits<{ close: []; remove: []; toggle: [] }>()

const page = usePageStore()
const title = ref('')
const address = ref('')
const wrong = ref('')
const fetching = ref(false)

watch(
  () => props.block.button,
  (button, before) => {
    // What is being typed stays; what changed elsewhere is shown.
    if (button?.title !== before?.title) title.value = button?.title ?? ''
    if (button?.address !== before?.address) address.value = button?.address ?? ''
  },
  { immediate: true },
)

function keepTitle() {
  page.changeBlock(`Rename “${props.block.button?.title}”`, props.block.key, (block) => {
    if (block.button) block.button.title = title.value.trim()
  })
}

async function keepAddress() {
  wrong.value = ''
  if (address.value === props.block.button?.address) return
  try {
    const { block: read } = await page.readPaste(address.value)
    address.value = read.button?.address ?? address.value
    page.changeBlock(`Lead “${props.block.button?.title}” elsewhere`, props.block.key, (block) => {
      if (block.button) block.button.address = address.value
    })
  } catch (error) {
    wrong.value = `${(error as Error).message} The button still leads to where it did.`
  }
}

async function fetchPicture() {
  fetching.value = true
  wrong.value = ''
  try {
    const found = await take(
      api.POST('/api/describe', { body: { address: props.block.button?.address ?? '' } }),
    )
    if (!found.picture) throw new Error('The site offers no picture of itself.')
    setPicture(found.picture)
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    fetching.value = false
  }
}

function setPicture(picture: NonNullable<Block['button']>['picture']) {
  page.changeBlock(
    `${picture ? 'Set' : 'Take away'} the picture of “${props.block.button?.title}”`,
    props.block.key,
    (block) => {
      if (block.button) block.button.picture = picture
    },
  )
}
</script>

<template>
  <EditorDrawer :title="place ? `Button at place ${place}` : 'Hidden button'" @close="emit('close')">
    <div class="field">
      <label for="block-title">Title</label>
      <InputText id="block-title" v-model="title" maxlength="120" @change="keepTitle" />
    </div>
    <div class="field">
      <label for="block-address">Leads to</label>
      <InputText
        id="block-address"
        v-model="address"
        inputmode="url"
        autocapitalize="none"
        autocomplete="off"
        spellcheck="false"
        :invalid="!!wrong"
        aria-describedby="block-wrong"
        @change="keepAddress"
      />
      <p id="block-wrong" class="wrong" role="alert">{{ wrong }}</p>
    </div>
    <div class="picture">
      <img
        v-if="block.button?.picture"
        :src="`/media/${block.button.picture.media}`"
        width="72"
        height="72"
        alt="Picture on the button"
      />
      <Button
        v-if="block.button?.picture"
        label="Take the picture away"
        severity="secondary"
        size="small"
        @click="setPicture(undefined)"
      />
      <Button
        v-else
        label="Take the picture from the site"
        severity="secondary"
        size="small"
        :loading="fetching"
        @click="fetchPicture"
      />
    </div>
    <div v-if="figures">
      <h3 class="from-title">Clicks, by source</h3>
      <dl class="from">
        <div v-for="lane in lanes" :key="lane.id">
          <dt><span class="swatch" :style="{ background: lane.colour }"></span>{{ lane.name }}</dt>
          <dd>{{ count(figures.bySource[lane.id]?.clicks ?? 0) }}</dd>
        </div>
      </dl>
    </div>
    <template #footer>
      <Button label="Delete" severity="danger" text @click="emit('remove')" />
      <Button :label="block.shown ? 'Hide' : 'Show'" severity="secondary" @click="emit('toggle')" />
    </template>
  </EditorDrawer>
</template>

<style scoped>
.picture {
  display: flex;
  align-items: center;
  gap: 14px;
}
.picture img {
  border-radius: 8px;
  object-fit: cover;
  border: 1px solid var(--line);
}
.from-title {
  font: 600 0.9rem var(--font-text);
  letter-spacing: 0;
  margin-bottom: 5px;
}
.from {
  margin: 0;
  border-top: 1px solid var(--line);
}
.from div {
  display: flex;
  justify-content: space-between;
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}
.from dd {
  margin: 0;
  font-weight: 600;
}
.swatch {
  display: inline-block;
  width: 10px;
  height: 10px;
  border-radius: 50%;
  margin-right: 9px;
}
</style>
