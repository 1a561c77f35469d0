<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import FieldText from '@/fields/FieldText.vue'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { usePageStore } from '@/page/pageStore'
import RestNotice from '@/pages/RestNotice.vue'
import { useUndo } from '@/shell/useUndo'

/** Puts the page away for a while: visitors read a notice in its place. */
const page = usePageStore()
const client = useQueryClient()
const offerUndo = useUndo()
const notice = ref('')
const published = computed(() => (page.state?.liveEdition ?? 0) > 0)
const rest = useMutation({
  mutationFn: () => page.rest(notice.value),
  onSuccess: () => {
    offerUndo(t('pages.restsNow'), async () => {
      await page.wake()
      await client.invalidateQueries({ queryKey: ['pages'] })
    })
    return client.invalidateQueries({ queryKey: ['pages'] })
  },
})
</script>

<template>
  <section aria-labelledby="rest-title">
    <h2 id="rest-title">{{ $t('pages.rest') }}</h2>
    <RestNotice v-if="page.state?.resting" />
    <template v-else>
      <p class="soft">{{ published ? $t('pages.restSays') : $t('pages.neverPublished') }}</p>
      <template v-if="published">
        <FieldText
          v-model="notice"
          class="wide"
          :label="$t('pages.whatVisitorsRead')"
          :maxlength="300"
          :lines="2"
          :placeholder="$t('pages.restNotice')"
        />
        <Button
          severity="secondary"
          :label="$t('pages.putToRest')"
          :loading="rest.isPending.value"
          @click="rest.mutate()"
        />
        <WrongText :text="rest.error.value?.message" />
      </template>
    </template>
  </section>
</template>

<style scoped>
.wide {
  width: min(100%, 30rem);
}
</style>
