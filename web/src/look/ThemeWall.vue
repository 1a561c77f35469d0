<script setup lang="ts">
import { Trash2 } from '@lucide/vue'
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { useConfirm } from 'primevue/useconfirm'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, take, type ThemeChoice } from '@/api/client'
import { sameName } from '@/fields/sameName'
import ToolButton from '@/fields/ToolButton.vue'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import PageMiniature from '@/page/PageMiniature.vue'
import { usePageStore } from '@/page/pageStore'
import { useLook } from './useLook'

/** Every theme, as the creator's own page looks in it. */
const page = usePageStore()
const route = useRoute()
const client = useQueryClient()
const confirm = useConfirm()
const { look, change } = useLook()

const id = computed(() => String(route.params.page))
const { data: themes } = useQuery({
  queryKey: ['themes', id],
  queryFn: () => take(api.GET('/api/pages/{page}/themes', { params: { path: { page: id.value } } })),
})
const begun = computed(() => themes.value?.find((theme) => theme.id === look.value?.theme))
const changed = computed(
  () => begun.value && JSON.stringify({ ...begun.value.look, theme: '' }) !== JSON.stringify({ ...look.value, theme: '' }),
) // prettier-ignore

function wear(theme: ThemeChoice) {
  change(t('look.wear', { name: theme.name }), (worn) => {
    Object.assign(worn, JSON.parse(JSON.stringify(theme.look)), { theme: theme.id })
  })
}

const naming = ref(false)
const name = ref('')
const wrong = ref('')
const twin = computed(() => sameName(name.value, themes.value))

async function keep() {
  if (!look.value) return
  wrong.value = ''
  try {
    await take(api.POST('/api/themes', { body: { name: name.value, look: look.value } }))
    naming.value = false
    name.value = ''
    await client.invalidateQueries({ queryKey: ['themes'] })
  } catch (error) {
    wrong.value = (error as Error).message
  }
}

function remove(theme: ThemeChoice) {
  confirm.require({
    header: t('look.deleteTheThemeAsked', { name: theme.name }),
    message: t('look.itGoesFromTheThemes'),
    acceptProps: { label: t('look.deleteIt'), severity: 'danger' },
    rejectProps: { label: t('look.keepIt'), severity: 'secondary', text: true },
    accept: () => void forget(theme),
  })
}

async function forget(theme: ThemeChoice) {
  await take(api.DELETE('/api/themes/{theme}', { params: { path: { theme: theme.id } } }))
  await client.invalidateQueries({ queryKey: ['themes'] })
}
</script>

<template>
  <section class="wall" :aria-label="$t('look.themes')">
    <div class="line">
      <p class="soft">{{ $t('look.yourPageInEachTheme') }}</p>
      <Button
        v-if="changed && begun"
        :label="$t('look.putBackTo', { name: begun.name })"
        severity="secondary"
        size="small"
        @click="wear(begun)"
      />
      <Button :label="$t('look.keepThisLook')" severity="secondary" size="small" @click="naming = true" />
    </div>
    <ul class="themes">
      <li v-for="theme in themes" :key="theme.id" :class="{ worn: theme.id === look?.theme }">
        <button class="theme" type="button" :aria-pressed="theme.id === look?.theme" @click="wear(theme)">
          <PageMiniature
            v-if="page.document && page.state"
            class="small"
            :strip="theme.strip"
            :document="page.document"
            :blocks="page.state.strip.blocks"
            :scale="0.36"
          />
          <span class="name">{{ theme.name }}</span>
        </button>
        <ToolButton
          v-if="theme.own"
          :icon="Trash2"
          :label="$t('look.deleteTheTheme', { name: theme.name })"
          @click="remove(theme)"
        />
      </li>
    </ul>
    <Dialog
      v-model:visible="naming"
      modal
      :header="$t('look.keepThisLook')"
      :style="{ width: '26rem' }"
      :breakpoints="{ '720px': '94vw' }"
    >
      <form id="keep-theme" class="field" @submit.prevent="keep">
        <label for="theme-name">{{ $t('common.name') }}</label>
        <InputText id="theme-name" v-model="name" maxlength="60" autofocus />
        <p v-if="twin" class="twin small" role="status">
          {{ $t('look.thereIsAThemeCalled', { name: twin.name }) }}
        </p>
        <WrongText :text="wrong" />
      </form>
      <template #footer>
        <Button :label="$t('common.cancel')" severity="secondary" text @click="naming = false" />
        <Button type="submit" form="keep-theme" :label="$t('look.keepIt')" />
      </template>
    </Dialog>
  </section>
</template>

<style scoped>
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 12px;
  margin-bottom: 10px;
}
.line p {
  margin-right: auto;
}
.themes {
  list-style: none;
  display: flex;
  gap: 14px;
  margin: 0;
  padding: 4px 4px 14px;
  overflow-x: auto;
}
.themes li {
  position: relative;
  flex: none;
}
.theme {
  display: grid;
  gap: 6px;
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink);
  cursor: pointer;
  text-align: left;
}
.small {
  width: 130px;
  height: 232px;
  border: 1px solid var(--line-strong);
  border-radius: 8px;
}
.theme:hover .small,
.worn .small {
  outline: 2px solid var(--accent);
  outline-offset: 1px;
}
.name {
  font-size: 0.87rem;
}
.twin {
  color: var(--amber);
}
.worn .name {
  font-weight: 700;
  color: var(--accent);
}
.themes .tool {
  position: absolute;
  right: 0;
  bottom: -4px;
}
</style>
