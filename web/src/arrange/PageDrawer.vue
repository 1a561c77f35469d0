<script setup lang="ts">
import { computed } from 'vue'
import { usePageStore } from '@/page/pageStore'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import EditorDrawer from './EditorDrawer.vue'
import GateFields from './GateFields.vue'
import TakeoverForm from './TakeoverForm.vue'
import TimesFields from './TimesFields.vue'

/** The page as a whole: when it shows, and where its address leads for a while. */
const emit = defineEmits<{ close: [] }>()
const page = usePageStore()
const refused = computed(() => page.refusals.find(({ place }) => place.startsWith('when'))?.message)
</script>

<template>
  <EditorDrawer :title="$t('arrange.wholePage')" at="when" @close="emit('close')">
    <section>
      <h3>{{ $t('arrange.whenItShows') }}</h3>
      <TimesFields
        :model-value="page.document?.when"
        :always="$t('arrange.pageAtAllTimes')"
        :wrong="refused"
        @update:model-value="
          page.change($t('arrange.changePageTimes'), (draft) => void (draft.when = $event), 'page/when')
        "
      />
    </section>
    <section>
      <h3>{{ $t('arrange.longPage') }}</h3>
      <FieldSwitch
        :label="$t('arrange.jumpLinks')"
        :model-value="page.document?.jump ?? false"
        @update:model-value="
          page.change(
            $t('arrange.changeJumps'),
            (draft) => void (draft.jump = $event || undefined),
            'page/jump',
          )
        "
      />
      <p class="soft">{{ $t('arrange.longPageSays') }}</p>
      <FieldSwitch
        :label="$t('arrange.searchField')"
        :model-value="page.document?.search ?? false"
        @update:model-value="
          page.change(
            $t('arrange.changeSearch'),
            (draft) => void (draft.search = $event || undefined),
            'page/search',
          )
        "
      />
      <p class="soft">{{ $t('arrange.searchFieldSays') }}</p>
    </section>
    <section>
      <h3>{{ $t('arrange.gateOfPage') }}</h3>
      <GateFields
        locks
        :model-value="page.document?.gate"
        @update:model-value="
          page.change($t('arrange.changeGate'), (draft) => void (draft.gate = $event), 'page/gate')
        "
      />
    </section>
    <section>
      <h3>{{ $t('arrange.passThrough') }}</h3>
      <p class="soft">{{ $t('arrange.passThroughSays') }}</p>
      <TakeoverForm />
    </section>
  </EditorDrawer>
</template>

<style scoped>
section {
  display: grid;
  gap: 12px;
  justify-items: start;
}
section + section {
  border-top: 1px solid var(--line);
  padding-top: 16px;
}
h3,
p {
  margin: 0;
}
</style>
