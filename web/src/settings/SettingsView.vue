<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import SelectButton from 'primevue/selectbutton'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import { pagesQuery } from '@/api/queries'
import { t } from '@/i18n'
import { bare } from '@/shelf/shortLinks'
import { saveAll } from '@/saving/editing'
import { useSession } from '@/session'
import { useTheme } from '@/theme/useTheme'
import OwnPhone from './OwnPhone.vue'
import SettingsFrame from './SettingsFrame.vue'
import TimeZone from './TimeZone.vue'
import WorkspaceUse from './WorkspaceUse.vue'
import YourData from './YourData.vue'

const session = useSession()
const router = useRouter()
const client = useQueryClient()
const theme = useTheme()
const themes = [
  { value: 'auto', label: t('settings.asTheDevice') },
  { value: 'light', label: t('settings.light') },
  { value: 'dark', label: t('settings.dark') },
]

/** What all pages of the workspace share. */
const { data: pages } = useQuery(pagesQuery())
const host = computed(() => bare(session.me?.publicOrigin ?? ''))

/** Opens the small window over whatever page is being read. */
const bookmarklet = computed(() => {
  const address = JSON.stringify(`${location.origin}/send`)
  const query = `'?url='+encodeURIComponent(location.href)+'&title='+encodeURIComponent(document.title)`
  return `javascript:void(open(${address}+${query},'jundle','width=460,height=560'))`
})

async function signOut() {
  await saveAll()
  await session.signOut()
}

const another = ref('')
const add = useMutation({
  mutationFn: () => take(api.POST('/api/pages', { body: { address: another.value } })),
  onSuccess: async (made) => {
    another.value = ''
    await client.invalidateQueries({ queryKey: ['pages'] })
    await router.push({ name: 'arrange', params: { page: made.id } })
  },
})
</script>

<template>
  <SettingsFrame :title="$t('settings.settings')">
    <section>
      <h2>{{ $t('settings.pages') }}</h2>
      <ul class="pages">
        <li v-for="each in pages" :key="each.id">
          <RouterLink class="more" :to="{ name: 'page-settings', params: { page: each.id } }">{{
            each.name || each.address
          }}</RouterLink>
          <span class="soft">{{ host }}/{{ each.address }}</span>
        </li>
      </ul>
      <form class="line" @submit.prevent="add.mutate()">
        <div class="field">
          <label for="another">{{ $t('settings.addressOfAnotherPage') }}</label>
          <InputText
            id="another"
            v-model="another"
            autocapitalize="none"
            autocomplete="off"
            spellcheck="false"
            :invalid="add.isError.value"
            aria-describedby="another-says"
          />
        </div>
        <Button
          type="submit"
          :label="$t('settings.addPage')"
          severity="secondary"
          :loading="add.isPending.value"
          :disabled="!another.trim()"
        />
      </form>
      <p id="another-says" class="wrong" role="alert">{{ add.error.value?.message }}</p>
    </section>
    <OwnPhone />
    <TimeZone />
    <YourData />
    <WorkspaceUse />
    <section>
      <h2>{{ $t('settings.sendFromYourBrowser') }}</h2>
      <i18n-t keypath="settings.dragThis" tag="p" scope="global">
        <template #bookmark
          ><a class="bookmarklet" :href="bookmarklet" @click.prevent>{{
            $t('settings.sendToJundle')
          }}</a></template
        >
      </i18n-t>
      <p class="soft">
        {{ $t('settings.pressedOnAnyPage') }}
      </p>
    </section>
    <section>
      <h2>{{ $t('settings.lightOrDark') }}</h2>
      <SelectButton
        v-model="theme"
        :options="themes"
        option-value="value"
        option-label="label"
        :allow-empty="false"
        :aria-label="$t('settings.lightOrDark')"
      />
      <p class="soft">{{ $t('settings.forTheStudio') }}</p>
    </section>
    <section>
      <h2>{{ $t('settings.account') }}</h2>
      <p>{{ session.me?.email }}</p>
      <Button class="out" :label="$t('settings.signOut')" severity="secondary" @click="signOut" />
    </section>
  </SettingsFrame>
</template>

<style scoped>
.pages {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 6px;
}
.pages li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
}
.pages a {
  font-weight: 600;
}
.bookmarklet {
  display: inline-block;
  padding: 4px 12px;
  border: 1.5px dashed var(--accent);
  border-radius: 4px;
  font-weight: 600;
  cursor: grab;
}
.wrong {
  color: var(--danger);
}
/* Wider screens have it in the rail. */
.out {
  display: none;
}
@media (max-width: 720px) {
  .out {
    display: inline-flex;
  }
}
</style>
