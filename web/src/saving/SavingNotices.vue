<script setup lang="ts">
import { computed } from 'vue'
import { t } from '@/i18n'
import { usePageStore } from '@/page/pageStore'
import ConflictNotice from './ConflictNotice.vue'
import { acknowledge, editing } from './editing'

/** What stands in the way of saving, what came back, and what was just deleted: each with the way out. */
const page = usePageStore()

const entries = computed(() => [...editing.value.values()])
const conflicts = computed(() =>
  entries.value.flatMap(({ edited, autosave }) =>
    autosave.conflict
      ? {
          of: edited.of,
          name: edited.name(autosave.value),
          words: edited.conflictSides(autosave.conflict, autosave.value),
          choose: (side: 'mine' | 'theirs') => autosave.choose(side),
        }
      : [],
  ),
)
const stuck = computed(() =>
  entries.value.flatMap(({ edited, autosave }) => {
    const name = edited.name(autosave.value)
    if (autosave.standing === 'waiting') return { of: edited.of, message: `${autosave.problem}` }
    if (autosave.standing !== 'refused') return []
    const [first, ...more] = autosave.refusals
    const others = more.length > 0 ? t('saving.andMore', { n: more.length }) : ''
    const rest = first ? t('saving.allElseIsSaved') : ''
    return {
      of: edited.of,
      message: t('saving.notSavedIn', { name, problem: first?.message ?? autosave.problem, others, rest }),
    }
  }),
)
const back = computed(() => entries.value.filter(({ cameBack }) => cameBack))
</script>

<template>
  <div class="notices">
    <ConflictNotice
      v-for="each in conflicts"
      :key="each.of"
      :name="each.name"
      :words="each.words"
      @choose="each.choose"
    />
    <p v-for="each in stuck" :key="each.of" class="notice" role="alert">
      <span>{{ each.message }}</span>
    </p>
    <p v-if="page.notUndone" class="notice" role="alert">
      <span>{{ page.notUndone }}</span>
    </p>
    <p v-for="entry in back" :key="entry.edited.of" class="notice plain" role="status">
      <span>{{ $t('saving.typedIsBack', { name: entry.edited.name(entry.autosave.value) }) }}</span>
      <button class="as-link" type="button" @click="acknowledge(entry)">{{ $t('saving.good') }}</button>
    </p>
    <p v-if="page.deleted && page.undoable === page.deleted.step" class="notice plain" role="status">
      <span>{{ $t('saving.isDeleted', { name: page.deleted.name }) }}</span>
      <button class="as-link" type="button" @click="page.undo">{{ $t('saving.undo') }}</button>
    </p>
  </div>
</template>

<style scoped>
.notices {
  display: grid;
}
.notice {
  border-radius: 0;
  border-width: 0 0 1px;
  padding: 8px 28px;
  margin: 0;
}
@media (max-width: 720px) {
  .notice {
    padding: 8px 14px;
  }
}
</style>
