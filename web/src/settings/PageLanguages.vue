<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Select from 'primevue/select'
import { computed, defineAsyncComponent, ref } from 'vue'
import { api, take, type Document } from '@/api/client'
import FieldText from '@/fields/FieldText.vue'
import { formatsOf, t } from '@/i18n'
import { titleOf } from '@/page/blockWords'
import { usePageStore } from '@/page/pageStore'

const FormattedText = defineAsyncComponent(() => import('@/kinds/FormattedText.vue'))
/** The other languages a page is offered in, and what it says in them beside what it says in its own. */
type Translation = NonNullable<Document['translations']>[number]
const page = usePageStore()
const MOST = 8
const translations = computed(() => page.document?.translations ?? [])

const nameOf = (tag: string) => new Intl.DisplayNames(formatsOf(), { type: 'language' }).of(tag) ?? tag
const left = computed(() =>
  (page.state?.limits.languages ?? [])
    .filter(
      (tag) => tag !== page.document?.language && !translations.value.some((each) => each.language === tag),
    )
    .map((tag) => ({ tag, name: nameOf(tag) }))
    .sort((a, b) => a.name.localeCompare(b.name, formatsOf())),
)

/** What visitors read, as it was saved last. */
const { data: wordings } = useQuery({
  queryKey: computed(() => ['wordings', page.state?.id, page.state?.revision]),
  queryFn: () =>
    take(api.GET('/api/pages/{page}/wordings', { params: { path: { page: page.state?.id ?? '' } } })),
  enabled: computed(() => !!page.state),
  placeholderData: (before) => before,
})
const done = ({ texts }: Translation) => wordings.value?.filter(({ at }) => texts[at]).length ?? 0

const opened = ref<string>()
function change(language: string, name: string, make: (all: Translation[]) => void, join?: string) {
  page.change(
    name,
    (draft) => {
      draft.translations ??= []
      make(draft.translations)
    },
    join && `translations/${language}/${join}`,
  )
}
function add(language: string) {
  opened.value = language
  change(language, t('settings.offerItIn', { language: nameOf(language) }), (all) =>
    all.push({ language, texts: {} }),
  )
}
const drop = (language: string) =>
  change(language, t('settings.offerItNoLongerIn', { language: nameOf(language) }), (all) => {
    const at = all.findIndex((each) => each.language === language)
    if (at >= 0) all.splice(at, 1)
  })
const say = (language: string, at: string, text: string) =>
  change(
    language,
    t('settings.translateIt'),
    (all) => {
      const of = all.find((each) => each.language === language)
      if (!of) return
      if (text) of.texts[at] = text
      else delete of.texts[at]
    },
    at,
  )

/** What a text belongs to: a block by its title, or a part of the page. */
function whose(at: string) {
  const [part = '', key] = at.split('/')
  const block = part === 'blocks' && page.document?.blocks.find((each) => each.key === key)
  if (block) return titleOf(block)
  if (part === 'footer') return t('settings.theEndOfThePage')
  return part === 'sharing' ? t('settings.searchAndSharing') : t('settings.theHeaderOfThePage')
}
</script>

<template>
  <section v-if="page.document" aria-labelledby="languages-title">
    <h2 id="languages-title">{{ $t('settings.otherLanguages') }}</h2>
    <p class="soft">
      {{ $t('settings.whatOtherLanguagesDo', { language: nameOf(page.document.language) }) }}
    </p>
    <ul v-if="translations.length" class="languages">
      <li v-for="each in translations" :key="each.language">
        <div class="one">
          <strong>{{ nameOf(each.language) }}</strong>
          <span class="soft">{{
            $t('settings.translatedOf', { done: done(each), all: wordings?.length ?? 0 })
          }}</span>
          <Button
            size="small"
            severity="secondary"
            :label="opened === each.language ? $t('settings.closeIt') : $t('settings.translateIt')"
            :aria-expanded="opened === each.language"
            :aria-label="$t('settings.translateInto', { language: nameOf(each.language) })"
            @click="opened = opened === each.language ? undefined : each.language"
          />
          <Button
            size="small"
            severity="secondary"
            text
            :label="$t('settings.takeItOut')"
            :aria-label="$t('settings.offerItNoLongerIn', { language: nameOf(each.language) })"
            @click="drop(each.language)"
          />
        </div>
        <ol v-if="opened === each.language" class="texts">
          <li v-for="wording in wordings" :key="wording.at">
            <p class="original" :lang="page.document.language">
              <small class="soft">{{ whose(wording.at) }}</small>
              {{ wording.form === 'html' ? wording.text.replace(/<[^>]*>/g, ' ').trim() : wording.text }}
            </p>
            <FormattedText
              v-if="wording.form === 'html'"
              :label="nameOf(each.language)"
              :model-value="each.texts[wording.at] ?? wording.text"
              @update:model-value="say(each.language, wording.at, $event)"
            />
            <FieldText
              v-else
              :label="nameOf(each.language)"
              :model-value="each.texts[wording.at]"
              :lines="wording.form === 'line' ? undefined : 3"
              :at="`translations/${each.language}/${wording.at}`"
              @update:model-value="say(each.language, wording.at, $event)"
            />
          </li>
        </ol>
      </li>
    </ul>
    <Select
      v-if="translations.length < MOST && left.length"
      :model-value="undefined"
      :options="left"
      option-value="tag"
      option-label="name"
      :placeholder="$t('settings.addALanguage')"
      :aria-label="$t('settings.addALanguage')"
      append-to="self"
      @update:model-value="add"
    />
  </section>
</template>

<style scoped>
.languages,
.texts {
  margin: 0;
  padding: 0;
  list-style: none;
}
.languages {
  width: min(100%, 44rem);
  max-width: none;
}
.languages > li {
  padding: 8px 0;
  border-top: 1px solid var(--line);
}
.one {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 4px 12px;
}
.one span {
  flex: 1;
}
.texts li {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px 18px;
  align-items: start;
  padding: 10px 0;
  border-top: 1px dotted var(--line);
}
.original {
  margin: 0;
  white-space: pre-line;
  overflow-wrap: anywhere;
}
.original small {
  display: block;
}
@media (max-width: 720px) {
  .texts li {
    grid-template-columns: 1fr;
  }
}
</style>
