<script setup lang="ts">
import { computed } from 'vue'
import type { BlockDetail } from '@/api/client'
import { momentWords } from '@/arrange/stateWords'
import { counted, rateText } from '@/figures'
import { useSession } from '@/session'
import { aroundWords, unchangedWords } from './aroundWords'

/** What changed for a button, and whether it is pressed more or less since: as many whole weeks before as after. */
const props = defineProps<Pick<BlockDetail, 'edits' | 'placements' | 'windows'>>()
const zone = useSession().me?.zone ?? 'UTC'

const rows = computed(() =>
  props.edits.map((edit) => ({ ...edit, when: momentWords(edit.at, zone), came: aroundWords(edit.around) })),
)
</script>

<template>
  <section aria-labelledby="edits-title">
    <h2 id="edits-title">{{ $t('readings.whatCameOfChanges') }}</h2>
    <p v-if="rows.length === 0" class="soft">{{ unchangedWords(props) }}</p>
    <div v-else class="scroller" tabindex="0" role="region" :aria-label="$t('readings.editsTable')">
      <table>
        <thead>
          <tr>
            <th scope="col">{{ $t('readings.whatChanged') }}</th>
            <th scope="col" class="number">{{ $t('readings.rateBefore') }}</th>
            <th scope="col" class="number">{{ $t('readings.rateAfter') }}</th>
            <th scope="col">{{ $t('readings.whatCame') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.edition">
            <th scope="row">
              <small>{{ $t('readings.editionAt', { n: row.edition, when: row.when }) }}</small>
              <span v-for="sentence in row.sentences" :key="sentence">{{ sentence }} </span>
            </th>
            <td class="number">{{ rateText(row.around.before) }}</td>
            <td class="number">{{ rateText(row.around.after) }}</td>
            <td :class="{ called: row.around.called }">
              {{ row.came }}
              <small v-if="row.around.weeks" class="soft">{{
                $t(
                  'readings.weeksAround',
                  {
                    weeks: row.around.weeks,
                    before: counted(row.around.before.of, 'visit'),
                    after: counted(row.around.after.of, 'visit'),
                  },
                  row.around.weeks,
                )
              }}</small>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
section {
  margin-top: 28px;
}
h2 {
  margin-bottom: 10px;
}
.scroller {
  overflow-x: auto;
  border: 1px solid var(--line-strong);
  border-radius: 6px;
  background: var(--surface);
}
table {
  border-collapse: collapse;
  width: 100%;
  min-width: 34rem;
}
th,
td {
  padding: 7px 10px;
  text-align: left;
  vertical-align: top;
  border-top: 1px solid var(--line);
}
thead th {
  font-size: 0.84rem;
  border: 0;
}
tbody th {
  font-weight: 400;
  max-width: 26rem;
}
small {
  display: block;
  color: var(--ink-soft);
}
.number {
  text-align: right;
}
.called {
  font-weight: 600;
}
.called small {
  font-weight: 400;
}
</style>
