<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Select from 'primevue/select'
import { computed, onMounted, ref, watchEffect } from 'vue'
import { useRoute } from 'vue-router'
import { api, take, type Block, type PageState } from '@/api/client'
import { pagesQuery } from '@/api/queries'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldText from '@/fields/FieldText.vue'
import { t } from '@/i18n'
import StudioMark from '@/shell/StudioMark.vue'

/** The small window of “Send to Jundle”: files the page being read, on a page and place of choice. */
const route = useRoute()
const { data: pages } = useQuery(pagesQuery())
const text = (name: string) => (typeof route.query[name] === 'string' ? (route.query[name] as string) : '')

const chosen = ref<string>()
watchEffect(() => (chosen.value ??= pages.value?.[0]?.id))
const choices = computed(() =>
  (pages.value ?? []).map((page) => ({ id: page.id, label: page.name || page.address })),
)
const title = ref(text('title').slice(0, 120))
const place = ref<'top' | 'bottom'>('top')
const places = [
  { value: 'top', label: t('send.atTheTop') },
  { value: 'bottom', label: t('send.atTheBottom') },
] as const
const picture = ref<NonNullable<Block['button']>['picture']>()
const busy = ref(false)
const wrong = ref('')
const done = ref('')

onMounted(async () => {
  try {
    const found = await take(api.POST('/api/describe', { body: { address: text('url') } }))
    if (!title.value && found.title) title.value = found.title
    picture.value = found.picture
  } catch {
    // The title of the window stays.
  }
})

/** Puts the button on a page as it stands now; tries again when the page changed meanwhile. */
async function file() {
  if (!chosen.value) return
  busy.value = true
  wrong.value = ''
  try {
    const path = { page: chosen.value }
    const [line] = await take(
      api.POST('/api/pages/{page}/paste', { params: { path }, body: { text: text('url') } }),
    )
    const block = line?.block
    if (!block) throw new Error(line?.message ?? t('send.thereIsNoAddress'))
    if (block.button)
      Object.assign(block.button, { title: title.value || block.button.title, picture: picture.value })
    else if (block.file) block.file.title = title.value || block.file.title
    let state: PageState = await take(api.GET('/api/pages/{page}', { params: { path } }))
    for (let tries = 0; ; tries++) {
      const { document, revision } = state
      document.blocks.splice(place.value === 'top' ? 0 : document.blocks.length, 0, block)
      const answer = await api.PUT('/api/pages/{page}/draft', {
        params: { path },
        body: { revision, document },
      })
      if (answer.response.status !== 409 || tries > 3) {
        await take(Promise.resolve(answer))
        break
      }
      state = await take(api.GET('/api/pages/{page}', { params: { path } }))
    }
    done.value = choices.value.find((choice) => choice.id === chosen.value)?.label ?? ''
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    busy.value = false
  }
}

const close = () => window.close()
</script>

<template>
  <main class="send">
    <header>
      <StudioMark :size="24" />
      <h1>{{ $t('send.sendToJundle') }}</h1>
    </header>
    <div v-if="done" class="done">
      <p role="status">{{ $t('send.itIsOnReady', { done }) }}</p>
      <Button :label="$t('send.close')" autofocus @click="close" />
    </div>
    <form v-else @submit.prevent="file">
      <div class="what">
        <img v-if="picture" :src="`/media/${picture.media}`" width="64" height="64" alt="" />
        <p class="soft small">{{ text('url') }}</p>
      </div>
      <FieldText v-model="title" :label="$t('common.title')" :maxlength="120" />
      <div class="field">
        <label for="send-page">{{ $t('send.page') }}</label>
        <Select
          v-model="chosen"
          input-id="send-page"
          label-id="send-page"
          :aria-label="$t('send.page')"
          :options="choices"
          option-value="id"
          option-label="label"
        />
      </div>
      <FieldChoice v-model="place" :label="$t('send.place')" :options="places" />
      <p v-if="wrong" class="notice" role="alert">{{ wrong }}</p>
      <Button type="submit" :label="$t('send.putItThere')" :loading="busy" />
    </form>
  </main>
</template>

<style scoped>
.send {
  max-width: 26rem;
  margin: 0 auto;
  padding: 18px;
}
header {
  display: flex;
  align-items: center;
  gap: 10px;
  margin-bottom: 14px;
}
h1 {
  font-size: 1.2rem;
}
form,
.done {
  display: grid;
  gap: 14px;
}
.what {
  display: flex;
  gap: 12px;
  align-items: center;
  overflow-wrap: anywhere;
}
.what img {
  border-radius: 6px;
  object-fit: cover;
}
</style>
