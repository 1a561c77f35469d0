<script setup lang="ts">
import Button from 'primevue/button'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import type { Icon, Lead, Picture } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import { t } from '@/i18n'
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
  { value: 'picture', label: t('common.picture') },
  { value: 'icon', label: t('kinds.icon') },
  { value: 'emoji', label: t('kinds.emoji') },
  { value: 'nothing', label: t('kinds.nothing') },
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
    :label="$t('kinds.beforeTheTitle')"
    :model-value="which"
    :options="options"
    @update:model-value="choose"
  />
  <FieldPicture
    v-if="which === 'picture'"
    :label="$t('common.picture')"
    :model-value="lead.picture"
    :use="use ?? 'small'"
    :aspect="aspect ?? 1"
    :alt="$t('kinds.pictureOnTheButton')"
    @update:model-value="(picture: Picture | undefined) => set({ picture })"
    ><slot
  /></FieldPicture>
  <div v-else-if="which === 'icon'" class="now">
    <span v-if="lead.icon">{{ lead.icon.set === 'own' ? $t('kinds.oneOfYourOwn') : lead.icon.name }}</span>
    <Button
      :label="lead.icon ? $t('common.chooseAnother') : $t('kinds.chooseAnIcon')"
      severity="secondary"
      size="small"
      @click="picking = 'icon'"
    />
  </div>
  <div v-else-if="which === 'emoji'" class="now">
    <span v-if="lead.emoji" class="emoji">{{ lead.emoji }}</span>
    <Button
      :label="lead.emoji ? $t('common.chooseAnother') : $t('kinds.chooseAnEmoji')"
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
