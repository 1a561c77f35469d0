<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { ref } from 'vue'
import { api, take, type Icon, type IconEntry } from '@/api/client'
import FileButton from '@/fields/FileButton.vue'
import IconDrawing from './IconDrawing.vue'
import { fitToSend } from './pictureFile'
import { upload } from './upload'
import { useChosenFiles } from './useChosenFiles'

/** Finds an icon by what it shows, what it is for, or whose mark it is; or takes an uploaded one. */
const emit = defineEmits<{ cancel: []; chosen: [icon: Icon, title: string] }>()

const typed = ref('')
const query = refDebounced(typed, 150)
const { data: found, isFetching } = useQuery({
  queryKey: ['icons', query],
  queryFn: () => take(api.GET('/api/icons', { params: { query: { q: query.value } } })),
  placeholderData: (previous: IconEntry[] | undefined) => previous,
  staleTime: Infinity,
})

/** An uploaded drawing that could not be kept whole, to be looked at first. */
const partly = ref<{ icon: Icon; title: string; leftOut: string[] }>()
const { busy, wrong, choose } = useChosenFiles(async ([picked]) => {
  partly.value = undefined
  const title = picked.name.replace(/\.\w+$/, '')
  const drawn = picked.type === 'image/svg+xml' || picked.name.endsWith('.svg')
  const { icon, leftOut } = await upload('/api/icons', drawn ? picked : await fitToSend(picked))
  if (leftOut.length > 0) partly.value = { icon, title, leftOut }
  else emit('chosen', icon, title)
})
</script>

<template>
  <Dialog
    visible
    modal
    :header="$t('pictures.chooseAnIcon')"
    :style="{ width: '40rem' }"
    :breakpoints="{ '720px': '94vw' }"
    @update:visible="emit('cancel')"
  >
    <div class="field">
      <label for="icon-search">{{ $t('pictures.whatItShowsOrWhose') }}</label>
      <InputText
        id="icon-search"
        v-model="typed"
        autofocus
        autocomplete="off"
        :placeholder="$t('pictures.ticketMapMail')"
      />
    </div>
    <div class="icons" :aria-busy="isFetching">
      <button
        v-for="icon in found"
        :key="`${icon.set}/${icon.name}`"
        type="button"
        class="icon"
        :title="icon.title"
        :aria-label="icon.title"
        @click="emit('chosen', { set: icon.set, name: icon.name }, icon.title)"
      >
        <IconDrawing :icon="icon" :size="24" /><span>{{ icon.title }}</span>
      </button>
      <p v-if="found?.length === 0" class="soft none">
        {{ $t('pictures.noIconIsCalled') }}
      </p>
    </div>
    <p v-if="wrong" class="notice" role="alert">{{ wrong }}</p>
    <div v-if="partly" class="notice partly" role="alert">
      <img
        :src="`/media/${partly.icon.name}`"
        width="48"
        height="48"
        :alt="$t('pictures.theDrawingAsItWould')"
      />
      <span>{{ $t('pictures.thisIsWhatCanBeKept', { parts: partly.leftOut.join(', ') }) }}</span>
      <Button
        size="small"
        :label="$t('pictures.useItLikeThis')"
        @click="emit('chosen', partly.icon, partly.title)"
      />
    </div>
    <template #footer>
      <FileButton
        :label="$t('pictures.uploadAnSvgOrPng')"
        :of="$t('pictures.iconFile')"
        accept="image/svg+xml,image/png"
        :busy="busy"
        @chosen="choose"
      />
      <Button :label="$t('common.cancel')" severity="secondary" text @click="emit('cancel')" />
    </template>
  </Dialog>
</template>

<style scoped>
.partly {
  display: flex;
  align-items: center;
  gap: 12px;
}
.partly img {
  background: #fff;
  border: 1px solid var(--line);
}
.icons {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(92px, 1fr));
  gap: 2px;
  margin-top: 12px;
  height: 21rem;
  overflow: auto;
  align-content: start;
}
.icon {
  display: grid;
  justify-items: center;
  gap: 6px;
  padding: 12px 4px 8px;
  border: 1px solid transparent;
  border-radius: 4px;
  background: none;
  color: var(--ink);
  cursor: pointer;
  min-width: 0;
}
.icon:hover {
  background: var(--sunk);
}
.icon span {
  font-size: 0.75rem;
  color: var(--ink-soft);
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.none {
  grid-column: 1 / -1;
  padding: 20px 0;
}
</style>
