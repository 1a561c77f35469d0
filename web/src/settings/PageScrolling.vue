<script setup lang="ts">
import FieldSwitch from '@/fields/FieldSwitch.vue'
import { usePageStore } from '@/page/pageStore'

/** Whether it is measured how far down visitors get: the one thing that needs a script on every page view. */
const page = usePageStore()
</script>

<template>
  <section aria-labelledby="scrolling-title">
    <h2 id="scrolling-title">{{ $t('settings.howFarDown') }}</h2>
    <FieldSwitch
      :label="$t('settings.measureHowFarDown')"
      :model-value="page.document?.scrolls ?? false"
      @update:model-value="
        page.change(
          $t('settings.changeHowFarDown'),
          (draft) => void (draft.scrolls = $event || undefined),
          'page/scrolls',
        )
      "
    />
    <p class="soft">{{ $t('settings.howFarDownSays') }}</p>
  </section>
</template>
