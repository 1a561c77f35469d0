<script setup lang="ts">
import { ref } from 'vue'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import WrongText from '@/fields/WrongText.vue'
import { usePageStore } from '@/page/pageStore'

/** Whether each saved change goes live by itself. */
const page = usePageStore()
const wrong = ref('')

async function set(on: boolean) {
  wrong.value = ''
  try {
    await page.setAsEdited(on)
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
</script>

<template>
  <div class="as-edited">
    <FieldSwitch
      :label="$t('shell.goLiveAsEdited')"
      :model-value="page.state?.asEdited ?? false"
      @update:model-value="set"
    />
    <p class="soft">{{ $t('shell.goLiveAsEditedSays') }}</p>
    <WrongText :text="wrong" />
  </div>
</template>

<style scoped>
.as-edited {
  display: grid;
  gap: 6px;
}
p {
  margin: 0;
}
</style>
