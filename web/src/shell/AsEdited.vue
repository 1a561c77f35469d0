<script setup lang="ts">
import { useConfirm } from 'primevue/useconfirm'
import { ref } from 'vue'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { usePageStore } from '@/page/pageStore'

/** Whether each saved change goes live by itself. */
const page = usePageStore()
const confirm = useConfirm()
const wrong = ref('')
const asked = ref(0)

/** What waits goes live with it, so that it is listed and asked for first. */
function ask(on: boolean) {
  const waiting = page.state?.changes ?? []
  if (!on || waiting.length === 0) return set(on)
  // The switch stays where it was until the answer.
  asked.value++
  confirm.require({
    header: t('shell.goLiveAsEditedAsked', waiting.length),
    message: [
      ...waiting.slice(0, 5).map(({ sentence }) => sentence),
      ...(waiting.length > 5 ? ['…'] : []),
    ].join('\n'),
    acceptProps: { label: t('shell.publishAndGoOn') },
    rejectProps: { label: t('common.cancel'), severity: 'secondary', text: true },
    accept: () => set(true),
  })
}

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
      :key="asked"
      :label="$t('shell.goLiveAsEdited')"
      :model-value="page.state?.asEdited ?? false"
      @update:model-value="ask"
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
