<script setup lang="ts">
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import Dialog from 'primevue/dialog'
import { useToast } from 'primevue/usetoast'
import { computed, ref, watch } from 'vue'
import { usePageStore } from '@/page/pageStore'

const visible = defineModel<boolean>('visible', { required: true })
const page = usePageStore()
const toast = useToast()
const busy = ref(false)
const wrong = ref('')
const next = computed(() => (page.state?.liveEdition ?? 0) + 1)

/** Only what is saved can be said in words, and published. */
const settled = computed(() => page.saving === 'saved')

watch(visible, (now) => {
  wrong.value = ''
  endsLinks.value = false
  if (now) void page.save()
})

/** Whether something is taken off the page: only then is there a choice. */
const takesOff = computed(() => page.state?.changes.some(({ ends }) => ends) ?? false)
const endsLinks = ref(false)

async function publish() {
  busy.value = true
  wrong.value = ''
  try {
    await page.publish(takesOff.value && endsLinks.value)
    visible.value = false
    toast.add({ severity: 'success', summary: `Edition ${page.state?.liveEdition} is live`, life: 3000 })
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <Dialog
    v-model:visible="visible"
    modal
    :header="`Publish edition ${next}`"
    class="publish-dialog"
    :style="{ width: '32rem' }"
    :breakpoints="{ '720px': '94vw' }"
  >
    <p v-if="!settled" class="soft" role="status">{{ page.problem || 'Saving the last change…' }}</p>
    <template v-else>
      <p class="soft">This is what visitors will find changed:</p>
      <ul class="changes">
        <li v-for="(change, i) in page.state?.changes" :key="i">{{ change.words }}</li>
      </ul>
    </template>
    <div v-if="settled && takesOff" class="ends">
      <Checkbox v-model="endsLinks" input-id="ends-links" binary aria-describedby="ends-links-says" />
      <label for="ends-links">What is taken off stops leading at once</label>
      <p id="ends-links-says" class="soft">
        Otherwise it still leads for a day, for visitors who have the page open now.
      </p>
    </div>
    <p v-if="wrong" class="notice" role="alert">{{ wrong }}</p>
    <template #footer>
      <Button label="Not yet" severity="secondary" text @click="visible = false" />
      <Button label="Publish now" :loading="busy" :disabled="!settled" autofocus @click="publish" />
    </template>
  </Dialog>
</template>

<style scoped>
.ends {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 2px 10px;
  align-items: center;
  margin-top: 16px;
  padding-top: 12px;
  border-top: 1px solid var(--line);
}
.ends p {
  grid-column: 2;
  margin: 0;
}
.changes {
  margin: 10px 0 0;
  padding-left: 20px;
  display: grid;
  gap: 6px;
  max-height: 50vh;
  overflow: auto;
}
</style>
