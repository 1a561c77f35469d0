<script setup lang="ts">
import Button from 'primevue/button'
import type { ConflictWords } from './editing'
import type { Side } from './merge'

/** Two people changed the same: what stands on either side, and the choice. All else has met without a question. */
defineProps<{ name: string; words: ConflictWords[] }>()
const emit = defineEmits<{ choose: [side: Side] }>()
</script>

<template>
  <section class="conflict" role="alert" aria-label="Changed here and elsewhere">
    <p>
      <strong>{{ name }} was changed here and elsewhere.</strong>
      Until you choose, nothing more is saved. What only one side changed stays either way.
    </p>
    <table>
      <thead>
        <tr>
          <th scope="col"><span class="visually-hidden">What</span></th>
          <th scope="col">On this screen</th>
          <th scope="col">Elsewhere</th>
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
      <Button size="small" label="Keep what is on my screen" @click="emit('choose', 'mine')" />
      <Button
        size="small"
        severity="secondary"
        label="Take what was written elsewhere"
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
