<script setup lang="ts">
import { Download } from '@lucide/vue'
import { computed, ref } from 'vue'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import { usePageStore } from '@/page/pageStore'

/** The page to be taken along: to be taken in again, or as plain files for any web host. */
const page = usePageStore()
const counted = ref(false)
const published = computed(() => (page.state?.liveEdition ?? 0) > 0)
const at = (name: string) => `/api/pages/${page.state?.id}/${name}`
</script>

<template>
  <section aria-labelledby="along-title">
    <h2 id="along-title">{{ $t('pages.takeAlong') }}</h2>
    <p class="soft">{{ $t('pages.takeAlongSays') }}</p>
    <p class="links">
      <a class="save" :href="at('page.zip')" download
        ><Download aria-hidden="true" /> {{ $t('pages.withItsPictures') }}</a
      >
      <a class="save" :href="at('page.json')" download
        ><Download aria-hidden="true" /> {{ $t('pages.asJson') }}</a
      >
      <a href="/api/page-schema" target="_blank" rel="noopener">{{ $t('pages.itsSchema') }}</a>
    </p>
    <h3>{{ $t('pages.plainFiles') }}</h3>
    <p class="soft">{{ $t('pages.plainFilesSay') }}</p>
    <FieldSwitch
      v-if="published"
      :label="$t('pages.countThePresses')"
      :model-value="counted"
      @update:model-value="counted = $event"
    />
    <a class="save" :href="at(`plain-files.zip?counted=${counted}`)" download
      ><Download aria-hidden="true" /> {{ $t('pages.asPlainFiles') }}</a
    >
  </section>
</template>

<style scoped>
.links {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 20px;
  margin: 0;
}
.save {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  font-weight: 600;
}
.save svg {
  width: 15px;
  height: 15px;
}
h3 {
  font-size: 1rem;
  margin-top: 8px;
}
</style>
