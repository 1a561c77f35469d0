<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { ref } from 'vue'
import { leftOutQuery } from '@/api/queries'
import { momentWords } from '@/arrange/stateWords'
import { t } from '@/i18n'
import { useSession } from '@/session'

/** The latest of what was kept and not counted, one by one, when somebody wants to see it. */
const props = defineProps<{ pageId: string; range: string; reasons: Record<string, string> }>()
const zone = useSession().me?.zone ?? 'UTC'
const isOpen = ref(false)
const { data: events, error } = useQuery({
  ...leftOutQuery(
    () => props.pageId,
    () => props.range,
  ),
  enabled: isOpen,
})
const did = ({ kind, title }: { kind: string; title?: string }) =>
  kind === 'view' ? t('readings.openedIt') : t('readings.pressedTitle', { title: title ?? '' })
</script>

<template>
  <details @toggle="isOpen = ($event.target as HTMLDetailsElement).open">
    <summary>{{ $t('readings.oneByOne') }}</summary>
    <p v-if="error" class="notice">{{ error.message }}</p>
    <p v-else-if="events?.length === 0" class="soft">{{ $t('readings.nothingOfLastDays') }}</p>
    <div v-else-if="events" class="scroller" tabindex="0" role="region" :aria-label="$t('readings.oneByOne')">
      <table>
        <thead>
          <tr>
            <th scope="col">{{ $t('readings.when') }}</th>
            <th scope="col">{{ $t('readings.why') }}</th>
            <th scope="col">{{ $t('readings.did') }}</th>
            <th scope="col">{{ $t('readings.from_') }}</th>
            <th scope="col">{{ $t('readings.calledItself') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(event, i) in events" :key="i">
            <td>{{ momentWords(event.at, zone) }}</td>
            <td>{{ reasons[event.reason] }}</td>
            <td>{{ did(event) }}</td>
            <td>{{ event.source }}</td>
            <td class="agent">{{ event.userAgent }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="soft small">{{ $t('readings.oneByOneSays') }}</p>
  </details>
</template>

<style scoped>
details {
  margin-top: 10px;
}
summary {
  cursor: pointer;
}
.scroller {
  overflow: auto;
  max-height: 22rem;
  margin-top: 8px;
  border: 1px solid var(--line-strong);
  border-radius: 6px;
  background: var(--surface);
}
table {
  border-collapse: collapse;
  font-size: 0.84rem;
  width: 100%;
}
th,
td {
  padding: 4px 10px;
  text-align: left;
  white-space: nowrap;
  border-top: 1px solid var(--line);
}
thead th {
  position: sticky;
  top: 0;
  background: var(--surface);
  border: 0;
}
.agent {
  max-width: 26rem;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
