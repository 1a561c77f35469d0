<script setup lang="ts">
import Select from 'primevue/select'
import { computed, ref, useId, watch } from 'vue'
import FieldText from '@/fields/FieldText.vue'
import { formatsOf, t } from '@/i18n'

/** The language a page is written in: one that it speaks by itself, or any other by its code. */
const props = defineProps<{ modelValue: string | undefined; spoken: string[] }>()
const emit = defineEmits<{ 'update:modelValue': [tag: string] }>()
const id = useId()
const OTHER = 'other'

const named = (tag: string) => new Intl.DisplayNames(formatsOf(), { type: 'language' }).of(tag) ?? tag
const options = computed(() => [
  ...props.spoken
    .map((tag) => ({ tag, name: named(tag) }))
    .sort((a, b) => a.name.localeCompare(b.name, formatsOf())),
  { tag: OTHER, name: t('arrange.anotherLanguage') },
])
const other = ref(false)
watch(
  () => props.modelValue,
  (tag) => (other.value = !!tag && !props.spoken.includes(tag)),
  { immediate: true },
)
function choose(tag: string) {
  other.value = tag === OTHER
  if (tag !== OTHER) emit('update:modelValue', tag)
}
</script>

<template>
  <div class="field">
    <label :id="id">{{ $t('arrange.languageOfThePage') }}</label>
    <Select
      :model-value="other ? OTHER : modelValue"
      :options="options"
      option-value="tag"
      option-label="name"
      :aria-labelledby="id"
      append-to="self"
      @update:model-value="choose"
    />
    <p class="hint">{{ $t('arrange.whatYouDidNotWrite') }}</p>
  </div>
  <FieldText
    v-if="other"
    :label="$t('arrange.itsCode')"
    :model-value="modelValue"
    :maxlength="12"
    lazy
    :hint="$t('arrange.aCodeSuchAsEn')"
    @update:model-value="emit('update:modelValue', $event.trim())"
  />
</template>
