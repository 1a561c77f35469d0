<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import SelectButton from 'primevue/selectbutton'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import { usePageStore } from '@/page/pageStore'
import { useSession } from '@/session'
import { useTheme } from '@/theme/useTheme'
import OutboundTagging from './OutboundTagging.vue'
import OwnPhone from './OwnPhone.vue'
import WorkspaceUse from './WorkspaceUse.vue'
import YourData from './YourData.vue'

const page = usePageStore()
const session = useSession()
const router = useRouter()
const client = useQueryClient()
const theme = useTheme()
const themes = [
  { value: 'auto', label: 'As the device' },
  { value: 'light', label: 'Light' },
  { value: 'dark', label: 'Dark' },
]

const address = ref('')
watch(() => page.state?.address, (now) => (address.value = now ?? ''), { immediate: true }) // prettier-ignore
const change = useMutation({
  mutationFn: () => page.changeAddress(address.value),
  onSuccess: () => client.invalidateQueries(),
})

/** Opens the small window over whatever page is being read. */
const bookmarklet = computed(() => {
  const address = JSON.stringify(`${location.origin}/send`)
  return `javascript:void(open(${address}+'?url='+encodeURIComponent(location.href)+'&title='+encodeURIComponent(document.title),'jundle','width=460,height=560'))`
})

async function signOut() {
  await page.save()
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
  <div class="view narrow">
    <div class="view-head"><h1>Settings</h1></div>
    <section>
      <h2>This page’s address</h2>
      <form class="line" @submit.prevent="change.mutate()">
        <div class="field">
          <label for="address">{{ session.me?.publicOrigin }}/</label>
          <InputText
            id="address"
            v-model="address"
            autocapitalize="none"
            autocomplete="off"
            spellcheck="false"
            :invalid="change.isError.value"
            aria-describedby="address-says"
          />
        </div>
        <Button
          type="submit"
          label="Change address"
          :loading="change.isPending.value"
          :disabled="address === page.state?.address"
        />
      </form>
      <p
        id="address-says"
        :class="change.error.value ? 'wrong' : 'soft'"
        :role="change.error.value ? 'alert' : undefined"
      >
        {{
          change.error.value?.message ??
          'The old address goes on leading here for good, and nobody else can take it.'
        }}
      </p>
    </section>
    <section>
      <h2>Another page</h2>
      <form class="line" @submit.prevent="add.mutate()">
        <div class="field">
          <label for="another">Its address</label>
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
          label="Add page"
          severity="secondary"
          :loading="add.isPending.value"
          :disabled="!another.trim()"
        />
      </form>
      <p id="another-says" class="wrong" role="alert">{{ add.error.value?.message }}</p>
    </section>
    <OutboundTagging />
    <OwnPhone />
    <YourData />
    <WorkspaceUse />
    <section>
      <h2>Send from your browser</h2>
      <p>
        Drag this to your bookmarks:
        <a class="bookmarklet" :href="bookmarklet" @click.prevent>Send to Jundle</a>
      </p>
      <p class="soft">
        Pressed on any page, it opens a small window that puts the page on yours, title and picture filled in.
      </p>
    </section>
    <section>
      <h2>Light or dark</h2>
      <SelectButton
        v-model="theme"
        :options="themes"
        option-value="value"
        option-label="label"
        :allow-empty="false"
        aria-label="Light or dark"
      />
      <p class="soft">For the studio in this browser. Your page keeps its own colours.</p>
    </section>
    <section>
      <h2>Account</h2>
      <p>{{ session.me?.email }}</p>
      <Button class="out" label="Sign out" severity="secondary" @click="signOut" />
      <p class="soft">Days in the readings begin at midnight in {{ session.me?.zone.replace('_', ' ') }}.</p>
    </section>
  </div>
</template>

<style scoped>
.narrow {
  max-width: 44rem;
}
:deep(section),
section {
  display: grid;
  gap: 10px;
  padding: 20px 0;
  border-top: 1px solid var(--line);
  justify-items: start;
}
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 10px;
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
