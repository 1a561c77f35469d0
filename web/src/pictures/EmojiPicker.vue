<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { computed, onMounted, ref, shallowRef } from 'vue'

interface Emoji {
  unicode: string
  label: string
  tags?: string[]
  group?: number
}

/** Finds an emoji by its name and what it is filed under (emojibase-data, of the Unicode names). */
const emit = defineEmits<{ cancel: []; chosen: [emoji: string] }>()

const typed = ref('')
const all = shallowRef<Emoji[]>([])
const MOST = 120

onMounted(async () => {
  const { default: data } = await import('emojibase-data/en/compact.json')
  // Group 2 holds parts of emoji, such as skin tones.
  all.value = (data as Emoji[]).filter((each) => each.group !== undefined && each.group !== 2)
})

const found = computed(() => {
  const query = typed.value.trim().toLowerCase()
  const hits = query
    ? all.value.filter(
        (each) => each.label.includes(query) || each.tags?.some((tag) => tag.startsWith(query)),
      )
    : all.value
  return hits.slice(0, MOST)
})
</script>

<template>
  <Dialog
    visible
    modal
    :header="$t('pictures.chooseAnEmoji')"
    :style="{ width: '32rem' }"
    :breakpoints="{ '720px': '94vw' }"
    @update:visible="emit('cancel')"
  >
    <div class="field">
      <label for="emoji-search">{{ $t('pictures.whatItShows') }}</label>
      <InputText
        id="emoji-search"
        v-model="typed"
        autofocus
        autocomplete="off"
        :placeholder="$t('pictures.fireLetterClock')"
      />
    </div>
    <div class="emoji">
      <button
        v-for="each in found"
        :key="each.unicode"
        type="button"
        :aria-label="each.label"
        :title="each.label"
        @click="emit('chosen', each.unicode)"
      >
        {{ each.unicode }}
      </button>
    </div>
    <template #footer
      ><Button :label="$t('common.cancel')" severity="secondary" text @click="emit('cancel')"
    /></template>
  </Dialog>
</template>

<style scoped>
.emoji {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(44px, 1fr));
  margin-top: 12px;
  height: 18rem;
  overflow: auto;
  align-content: start;
}
.emoji button {
  border: 0;
  background: none;
  font-size: 24px;
  line-height: 44px;
  border-radius: 4px;
  padding: 0;
  cursor: pointer;
}
.emoji button:hover {
  background: var(--sunk);
}
</style>
