<script setup lang="ts">
import Button from 'primevue/button'
import type { ConflictWords } from './editing'
import type { Side } from './merge'

/** Two people changed the same: what stands on either side, and the choice. All else has met without a question. */
defineProps<{ name: string; words: ConflictWords[] }>()
const emit = defineEmits<{ choose: [side: Side] }>()
</script>

<template>
  <section class="conflict" role="alert" :aria-label="$t('saving.changedHereAndElsewhere')">
    <p>
      <strong>{{ $t('saving.wasChangedHereAndElsewhere', { name }) }}</strong>
      {{ $t('saving.untilYouChoose') }}
    </p>
    <table>
      <thead>
        <tr>
          <th scope="col">
            <span class="visually-hidden">{{ $t('saving.what') }}</span>
          </th>
          <th scope="col">{{ $t('saving.onThisScreen') }}</th>
          <th scope="col">{{ $t('saving.elsewhere') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(each, i) in words" :key="i">
          <th scope="row">{{ each.name }}</th>
          <td>{{ each.mine }}</td>
          <td>{{ each.theirs }}</td>
        </tr>
      </tbody>
    </table>
    <p class="choice">
      <Button size="small" :label="$t('saving.keepWhatIsOnMy')" @click="emit('choose', 'mine')" />
      <Button
        size="small"
        severity="secondary"
        :label="$t('saving.takeWhatWasWrittenElsewhere')"
        @click="emit('choose', 'theirs')"
      />
    </p>
  </section>
</template>

<style scoped>
.conflict {
  display: grid;
  gap: 8px;
  padding: 12px 28px;
  background: var(--amber-soft);
  border-bottom: 1px solid var(--amber);
  max-height: 45dvh;
  overflow: auto;
}
table {
  border-collapse: collapse;
  max-width: 56rem;
}
th,
td {
  padding: 3px 24px 3px 0;
  text-align: left;
  vertical-align: top;
  overflow-wrap: anywhere;
}
thead th {
  font-size: 0.85rem;
  font-weight: 500;
  color: var(--ink-soft);
}
.choice {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
@media (max-width: 720px) {
  .conflict {
    padding: 10px 14px;
  }
  th,
  td {
    padding-right: 12px;
  }
}
</style>
