<script setup lang="ts">
import { Copy } from '@lucide/vue'
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { useCopy } from '@/shell/useCopy'
import { TAGS } from './campaignTags'

/** Puts campaign tags on an address: the finished address stands below as it is typed. */
const emit = defineEmits<{ shorten: [address: string] }>()
const copy = useCopy()
const client = useQueryClient()
const address = ref('')
const tags = ref({ source: '', medium: '', campaign: '', term: '', content: '' })
const overwrite = ref(false)
const { data: known } = useQuery({
  queryKey: ['campaign-values'],
  queryFn: () => take(api.GET('/api/campaign-values')),
})

const body = computed(() => ({ address: address.value, tags: { ...tags.value }, overwrite: overwrite.value }))
const asked = refDebounced(body, 200)
const { data: made, error } = useQuery({
  queryKey: computed(() => ['tagged', asked.value, known.value]),
  enabled: () => asked.value.address.trim() !== '',
  queryFn: () => take(api.POST('/api/tagged-address', { body: asked.value })),
  placeholderData: (before) => before,
})
const finished = computed(() => (address.value.trim() && !error.value ? made.value : undefined))
const near = (name: string) => finished.value?.near.find((each) => each.tag === name)
/** A value as it will be written, when that is not how it was typed. */
const written = (field: keyof typeof tags.value) => {
  const value = finished.value?.tags[field]
  return value && value !== tags.value[field] ? value : undefined
}

async function use() {
  if (!finished.value) return
  await copy(finished.value.address, t('shelf.theTaggedAddress'))
  await remember()
}
async function shorten() {
  if (!finished.value) return
  emit('shorten', finished.value.address)
  await remember()
}
async function remember() {
  if (!finished.value) return
  await take(api.POST('/api/campaign-values', { body: finished.value.tags }))
  await client.invalidateQueries({ queryKey: ['campaign-values'] })
}
</script>

<template>
  <section class="builder" aria-labelledby="builder-title">
    <h2 id="builder-title">{{ $t('shelf.tagAnAddress') }}</h2>
    <div class="field wide">
      <label for="campaign-address">{{ $t('shelf.destination') }}</label>
      <InputText
        id="campaign-address"
        v-model="address"
        inputmode="url"
        :placeholder="$t('shelf.httpsYourSiteExampleDates')"
        autocomplete="off"
        spellcheck="false"
      />
    </div>
    <div class="tags">
      <div v-for="tag in TAGS" :key="tag.field" class="field">
        <label :for="`campaign-${tag.field}`"
          >{{ tag.label }} <code>{{ tag.name }}</code></label
        >
        <InputText
          :id="`campaign-${tag.field}`"
          v-model="tags[tag.field]"
          :list="`known-${tag.field}`"
          :placeholder="tag.example"
          maxlength="100"
          autocapitalize="none"
          autocomplete="off"
        />
        <datalist :id="`known-${tag.field}`">
          <option v-for="value in known?.[tag.name] ?? []" :key="value" :value="value"></option>
        </datalist>
        <i18n-t
          v-if="near(tag.name)"
          keypath="shelf.nearly"
          tag="p"
          class="near"
          role="status"
          scope="global"
        >
          <template #known
            ><strong>{{ near(tag.name)?.known }}</strong></template
          >
          <template #button
            ><button type="button" @click="tags[tag.field] = near(tag.name)?.known ?? ''">
              {{ $t('shelf.useIt') }}
            </button></template
          >
        </i18n-t>
        <p v-else-if="written(tag.field)" class="hint">
          {{ $t('shelf.writtenAs', { written: written(tag.field) }) }}
        </p>
        <p v-else class="hint">{{ tag.description }}</p>
      </div>
    </div>
    <WrongText :text="address.trim() ? error?.message : ''" />
    <div v-if="finished" class="finished">
      <p class="soft">{{ $t('shelf.theFinishedAddress') }}</p>
      <output>{{ finished.address }}</output>
      <p v-if="finished.kept.length" class="kept">
        {{ $t('shelf.ownTagsWereKept', { tags: finished.kept.join(', ') }) }}
      </p>
      <div class="acts">
        <Button @click="use"><Copy aria-hidden="true" /> {{ $t('shelf.copyAndRememberTheValues') }}</Button>
        <Button severity="secondary" :label="$t('shelf.makeAShortLinkOfIt')" @click="shorten" />
        <FieldSwitch
          v-if="finished.kept.length || overwrite"
          v-model="overwrite"
          :label="$t('shelf.replaceTagsItHasAlready')"
        />
      </div>
    </div>
  </section>
</template>

<style scoped>
.builder {
  display: grid;
  gap: 16px;
  max-width: 62rem;
  padding: 20px;
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 6px;
}
.tags {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
  gap: 16px;
}
.builder .p-inputtext {
  width: 100%;
}
label code {
  font: inherit;
  font-weight: 400;
  font-size: 0.8rem;
  color: var(--ink-soft);
}
.near {
  color: var(--amber);
  font-size: 0.85rem;
}
.near button {
  border: 0;
  padding: 0;
  background: none;
  color: var(--accent);
  font-weight: 600;
  text-decoration: underline;
  cursor: pointer;
}
.finished {
  display: grid;
  gap: 8px;
  padding: 14px 16px;
  background: var(--sunk);
  border-left: 3px solid var(--accent);
}
output {
  font-weight: 600;
  overflow-wrap: anywhere;
}
.kept {
  color: var(--amber);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 16px;
}
.acts svg {
  width: 15px;
  height: 15px;
}
.wrong {
  color: var(--danger);
}
</style>
