<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import type { Document } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import FieldText from '@/fields/FieldText.vue'
import { t } from '@/i18n'
import { usePageStore } from '@/page/pageStore'
import FieldPicture from '@/pictures/FieldPicture.vue'
import { useSession } from '@/session'

/** How the page is shown by search engines, and by networks with a post that leads to it. */
type Sharing = NonNullable<Document['sharing']>
const page = usePageStore()
const session = useSession()
const sharing = computed(() => page.document?.sharing ?? {})
const header = computed(() => page.document?.header)

function set(change: Partial<Sharing>, join?: string) {
  page.change(
    t('settings.changeHowItIsShared'),
    (draft) => {
      draft.sharing = { ...sharing.value, ...change }
    },
    join && `sharing/${join}`,
  )
}

const WHO = [
  { value: 'person', label: t('settings.aPerson') },
  { value: 'organisation', label: t('settings.anOrganisation') },
] as const

const title = computed(() => sharing.value.title || header.value?.name || page.state?.address || '')
const description = computed(() => sharing.value.description || header.value?.line || '')
const host = computed(() => new URL(session.me?.pageOrigin ?? 'https://page.example').host)
/** What was saved last is what is drawn: the picture is asked for again once more of it is. */
const saved = refDebounced(
  computed(() => page.state?.revision ?? 0),
  600,
)
const picture = computed(() =>
  sharing.value.picture
    ? `/media/${sharing.value.picture.media}`
    : `/api/pages/${page.state?.id}/sharing.png?revision=${saved.value}`,
)
const failed = ref(false)
watch(picture, () => (failed.value = false))
</script>

<template>
  <section v-if="page.document" aria-labelledby="sharing-title">
    <h2 id="sharing-title">{{ $t('settings.searchAndSharing') }}</h2>
    <figure>
      <div class="post">
        <img
          v-if="!failed"
          :src="picture"
          width="1200"
          height="630"
          :alt="$t('settings.pictureWithPosts')"
          @error="failed = true"
        />
        <p v-else class="soft missing">{{ $t('settings.pictureComesLater') }}</p>
        <div class="words">
          <small>{{ host }}</small>
          <strong>{{ title }}</strong>
          <span>{{ description }}</span>
        </div>
      </div>
      <figcaption class="soft">{{ $t('settings.howAPostLooks') }}</figcaption>
    </figure>
    <FieldText
      :label="$t('common.title')"
      :model-value="sharing.title"
      :maxlength="60"
      :placeholder="header?.name"
      at="sharing/title"
      @update:model-value="set({ title: $event }, 'title')"
    />
    <FieldText
      :label="$t('settings.description')"
      :model-value="sharing.description"
      :maxlength="200"
      :count-from="140"
      :lines="2"
      :placeholder="header?.line"
      at="sharing/description"
      @update:model-value="set({ description: $event }, 'description')"
    />
    <FieldPicture
      :label="$t('settings.pictureOfYourOwn')"
      :model-value="sharing.picture"
      use="ground"
      :aspect="1200 / 630"
      :alt="$t('settings.pictureWithPosts')"
      @update:model-value="set({ picture: $event })"
    />
    <FieldSwitch
      :label="$t('settings.searchEnginesMayList')"
      :hint="$t('settings.fromItsFirstEditionOn')"
      :model-value="!sharing.unlisted"
      @update:model-value="set({ unlisted: !$event })"
    />
    <FieldChoice
      :label="$t('settings.whosePageItIs')"
      :model-value="sharing.who || 'person'"
      :options="WHO"
      @update:model-value="set({ who: $event })"
    />
  </section>
</template>

<style scoped>
section > :not(h2) {
  width: min(100%, 30rem);
}
figure {
  margin: 0;
}
.post {
  border: 1px solid var(--line-strong);
  border-radius: 8px;
  overflow: hidden;
  background: var(--surface);
}
img {
  display: block;
  width: 100%;
  height: auto;
  aspect-ratio: 1200 / 630;
  object-fit: cover;
  background: var(--sunk);
}
.missing {
  aspect-ratio: 1200 / 630;
  display: grid;
  place-items: center;
  margin: 0;
  padding: 16px;
}
.words {
  display: grid;
  padding: 10px 14px 12px;
}
small,
.words span {
  color: var(--ink-soft);
  font-size: 0.87rem;
}
figcaption {
  margin-top: 6px;
  font-size: 0.87rem;
}
</style>
