<script setup lang="ts">
import Button from 'primevue/button'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import type { Icon, Lead, Picture } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldPicture from '@/pictures/FieldPicture.vue'

const IconPicker = defineAsyncComponent(() => import('@/pictures/IconPicker.vue'))
const EmojiPicker = defineAsyncComponent(() => import('@/pictures/EmojiPicker.vue'))

type Which = 'picture' | 'icon' | 'emoji' | 'nothing'

/** What stands before a title: a picture, an icon, an emoji, or nothing. */
const props = defineProps<{ lead: Lead; use?: 'small' | 'column'; aspect?: number }>()
const emit = defineEmits<{ change: [lead: Lead] }>()

const now = computed<Which>(() => {
  if (props.lead.picture) return 'picture'
  if (props.lead.icon) return 'icon'
  return props.lead.emoji ? 'emoji' : 'nothing'
})
const which = ref<Which>(now.value)
watch(now, (is) => (which.value = is))
const picking = ref<Which>()

const options = [
  { value: 'picture', label: 'Picture' },
  { value: 'icon', label: 'Icon' },
  { value: 'emoji', label: 'Emoji' },
  { value: 'nothing', label: 'Nothing' },
] as const

/** What it is chosen from opens by its button: arrows go over these choices as well. */
function choose(value: Which) {
  which.value = value
  if (value === 'nothing') emit('change', {})
}

function set(lead: Lead) {
  picking.value = undefined
  emit('change', lead)
}

function cancel() {
  picking.value = undefined
}
</script>

<template>
  <FieldChoice
    label="Before the title"
    :model-value="which"
    :options="options"
    @update:model-value="choose"
  />
  <FieldPicture
    v-if="which === 'picture'"
    label="Picture"
    :model-value="lead.picture"
    :use="use ?? 'small'"
    :aspect="aspect ?? 1"
    alt="Picture on the button"
    @update:model-value="(picture: Picture | undefined) => set({ picture })"
    ><slot
  /></FieldPicture>
  <div v-else-if="which === 'icon'" class="now">
    <span v-if="lead.icon">{{ lead.icon.set === 'own' ? 'one of your own' : lead.icon.name }}</span>
    <Button
      :label="lead.icon ? 'Choose another' : 'Choose an icon'"
      severity="secondary"
      size="small"
      @click="picking = 'icon'"
    />
  </div>
  <div v-else-if="which === 'emoji'" class="now">
    <span v-if="lead.emoji" class="emoji">{{ lead.emoji }}</span>
    <Button
      :label="lead.emoji ? 'Choose another' : 'Choose an emoji'"
      severity="secondary"
      size="small"
      @click="picking = 'emoji'"
    />
  </div>
  <IconPicker v-if="picking === 'icon'" @cancel="cancel" @chosen="(icon: Icon) => set({ icon })" />
  <EmojiPicker v-if="picking === 'emoji'" @cancel="cancel" @chosen="(emoji: string) => set({ emoji })" />
</template>

<style scoped>
.now {
  display: flex;
  align-items: center;
  gap: 12px;
}
.emoji {
  font-size: 28px;
}
</style>
