<script setup lang="ts">
import { Copy, Download, X } from '@lucide/vue'
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { computed, nextTick, ref, watch } from 'vue'
import type { ListedLink } from '@/api/client'
import { workspaceQuery } from '@/api/queries'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import FieldText from '@/fields/FieldText.vue'
import KeepRow from '@/fields/KeepRow.vue'
import WindowRows from '@/fields/WindowRows.vue'
import { provideRefused } from '@/fields/refused'
import ToolButton from '@/fields/ToolButton.vue'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import FieldPicture from '@/pictures/FieldPicture.vue'
import ShareFigures from '@/readings/ShareFigures.vue'
import { useCopy } from '@/shell/useCopy'
import LinkRemoval from './LinkRemoval.vue'
import ShortLinkFigures from './ShortLinkFigures.vue'
import { bare, REDIRECTS, stateWords, type Words } from './shortLinks'
import { useShortLink } from './useShortLink'

/** One short link, open: how it does, where it leads and when, and what networks show of it. */
const props = defineProps<{ link: ListedLink }>()
const emit = defineEmits<{ close: [] }>()
const copy = useCopy()
const { data: workspace } = useQuery(workspaceQuery())
const { state, content, standing, set, save, readdress, setDeleted, addressRefused, about, elsewhere } =
  useShortLink(() => props.link)
provideRefused(about)

const address = ref<string>()
watch(() => props.link.id, () => (address.value = undefined)) // prettier-ignore
async function editAddress() {
  address.value = state.value?.address
  await nextTick()
  document.getElementById('panel-address')?.focus()
}
async function keepAddress() {
  if (address.value !== undefined && (await readdress(address.value))) address.value = undefined
}

/** The code changes with the address, so the address is part of where it is drawn at. */
const codeAddress = (format: 'svg' | 'png') =>
  `/api/short-links/${state.value?.id}/code?format=${format}&of=${state.value?.address}`

const preview = computed(() => content.value?.preview ?? {})
const setPreview = (change: Partial<NonNullable<Words['preview']>>) =>
  set({ preview: { ...preview.value, ...change } })
const labels = (text: string) => text.split(',').map((label) => label.trim()).filter(Boolean) // prettier-ignore
const redirect = computed(() => REDIRECTS.find(({ value }) => value === content.value?.redirect))

/** What is said of the link while it is not as it is in force. */
const standingWords = computed(() => {
  switch (standing.value) {
    case 'saving': return 'saving'
    case 'waiting': return t('shelf.notSavedYet')
    case 'refused': return t('shelf.notSavedSee')
    case 'conflict': return t('shelf.notSavedChooseAbove')
    default: return undefined
  }
}) // prettier-ignore

async function leave() {
  await save()
  emit('close')
}
</script>

<template>
  <aside
    v-if="state && content"
    class="panel"
    :aria-label="$t('shelf.shortLink', { address: state.address })"
    @keydown.esc="leave"
  >
    <header>
      <div>
        <h2>{{ content.name || state.address }}</h2>
        <p class="soft" role="status">{{ standingWords ?? stateWords(state, workspace?.zone) }}</p>
      </div>
      <ToolButton :icon="X" :label="$t('shelf.closeTheShortLink')" @click="leave" />
    </header>

    <div class="address">
      <template v-if="address === undefined">
        <code>{{ bare(state.shortAddress) }}</code>
        <Button size="small" @click="copy(state.shortAddress, $t('shelf.theShortAddress'))">
          <Copy aria-hidden="true" /> {{ $t('common.copy') }}
        </Button>
        <Button
          size="small"
          severity="secondary"
          :label="$t('shelf.change')"
          :aria-label="$t('shelf.changeTheAddress')"
          @click="editAddress"
        />
      </template>
      <form v-else @submit.prevent="keepAddress">
        <label for="panel-address" class="soft">{{ bare(state.shortAddress).split('/')[0] }}/</label>
        <InputText
          id="panel-address"
          v-model="address"
          maxlength="40"
          autocapitalize="none"
          autocomplete="off"
          spellcheck="false"
        />
        <KeepRow small @cancel="address = undefined" />
      </form>
      <WrongText :text="addressRefused" />
      <p v-if="state.pastAddresses.length" class="soft small">
        {{
          $t(
            'shelf.pastAddressesLead',
            { addresses: state.pastAddresses.join(', ') },
            state.pastAddresses.length,
          )
        }}
      </p>
    </div>
    <figure class="code">
      <img
        :src="codeAddress('svg')"
        width="84"
        height="84"
        :alt="$t('shelf.qrCodeOf', { address: bare(state.shortAddress) })"
      />
      <figcaption>
        <span class="soft">{{ $t('shelf.toPrintItStaysRight') }}</span>
        <a
          v-for="format in ['svg', 'png'] as const"
          :key="format"
          class="save"
          :href="codeAddress(format)"
          :download="`${state.address}.${format}`"
          ><Download aria-hidden="true" /> {{ format.toUpperCase() }}</a
        >
      </figcaption>
    </figure>
    <p v-if="elsewhere" class="notice" role="alert">{{ elsewhere }}</p>

    <ShortLinkFigures :link="state.id" />

    <section aria-labelledby="leads-title">
      <h3 id="leads-title">{{ $t('shelf.whereItLeads') }}</h3>
      <FieldText
        :label="$t('shelf.destination')"
        :model-value="content.destination"
        inputmode="url"
        at="destination"
        @update:model-value="set({ destination: $event, destinationId: undefined })"
      />
      <div class="field">
        <span id="panel-redirect" class="label">{{ $t('shelf.kindOfRedirect') }}</span>
        <Select
          :model-value="content.redirect"
          :options="[...REDIRECTS]"
          option-value="value"
          option-label="label"
          aria-labelledby="panel-redirect"
          @update:model-value="set({ redirect: $event })"
        />
        <p class="hint">
          {{ $t('shelf.itSaysThatWhichever', { description: redirect?.description }) }}
        </p>
      </div>
    </section>

    <section aria-labelledby="when-title">
      <h3 id="when-title">{{ $t('shelf.when') }}</h3>
      <FieldSwitch
        :label="$t('shelf.switchedOn')"
        :model-value="content.on"
        @update:model-value="set({ on: $event })"
      />
      <WindowRows
        :always="$t('shelf.alwaysGiveItAWindow')"
        :zone="workspace?.zone"
        :model-value="content.windows"
        :wrong="about('windows')"
        @update:model-value="set({ windows: $event })"
      />
      <FieldText
        :label="$t('shelf.whereItLeadsAtOther')"
        :model-value="content.fallback"
        inputmode="url"
        at="fallback"
        :placeholder="$t('shelf.nowhereANoticeSays')"
        @update:model-value="set({ fallback: $event, fallbackId: undefined })"
      />
    </section>

    <section aria-labelledby="preview-title">
      <h3 id="preview-title">{{ $t('shelf.whatNetworksShow') }}</h3>
      <FieldText
        :label="$t('common.title')"
        :model-value="preview.title"
        :maxlength="120"
        :count-from="70"
        :placeholder="$t('shelf.theDestinationsOwn')"
        at="preview/title"
        @update:model-value="setPreview({ title: $event })"
      />
      <template v-if="preview.title || preview.text || preview.picture">
        <FieldText
          :label="$t('common.text')"
          :model-value="preview.text"
          :maxlength="200"
          :lines="2"
          @update:model-value="setPreview({ text: $event })"
        />
        <FieldPicture
          :label="$t('common.picture')"
          :model-value="preview.picture"
          use="column"
          :aspect="1200 / 630"
          :alt="$t('shelf.pictureShownInPosts')"
          @update:model-value="setPreview({ picture: $event })"
        />
      </template>
    </section>

    <section aria-labelledby="shelf-title">
      <h3 id="shelf-title">{{ $t('shelf.onTheShelf') }}</h3>
      <FieldText
        :label="$t('common.name')"
        :model-value="content.name"
        :maxlength="80"
        at="name"
        @update:model-value="set({ name: $event })"
      />
      <FieldText
        :label="$t('shelf.labelsWithCommasBetween')"
        :model-value="content.labels.join(', ')"
        lazy
        :wrong="about('labels')"
        @update:model-value="set({ labels: labels($event) })"
      />
      <FieldText
        :label="$t('shelf.note')"
        :model-value="content.note"
        :maxlength="500"
        :lines="2"
        at="note"
        @update:model-value="set({ note: $event })"
      />
    </section>

    <ShareFigures :key="state.id" :of="state.id" />
    <LinkRemoval :link="state" :change="setDeleted" />
  </aside>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 22px;
  align-content: start;
  padding: 18px 20px 24px;
  background: var(--surface);
  border: 1px solid var(--line-strong);
  border-radius: 6px;
}
.panel > * {
  min-width: 0;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: start;
  gap: 12px;
}
h2 {
  font-size: 1.3rem;
  overflow-wrap: anywhere;
}
h3 {
  font-size: 1rem;
}
section {
  display: grid;
  gap: 14px;
}
section[aria-labelledby] {
  border-top: 1px solid var(--line);
  padding-top: 16px;
}
.address,
.address form {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
.address > p {
  width: 100%;
}
code {
  font: inherit;
  font-weight: 600;
  overflow-wrap: anywhere;
}
.code {
  margin: 0;
  display: flex;
  align-items: center;
  gap: 14px;
}
.code img {
  border: 1px solid var(--line);
  background: #fff;
}
figcaption {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
}
figcaption .soft {
  width: 100%;
}
.save {
  display: inline-flex;
  align-items: center;
  gap: 5px;
  font-weight: 600;
}
.save svg {
  width: 14px;
  height: 14px;
}
.label {
  font-weight: 600;
  font-size: 0.9rem;
}
.address svg {
  width: 14px;
  height: 14px;
}
.wrong {
  color: var(--danger);
}
</style>
