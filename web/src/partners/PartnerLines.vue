<script setup lang="ts">
import { reactive } from 'vue'
import type { PartnerComparison } from '@/api/client'
import { count } from '@/figures'
import { t } from '@/i18n'
import { shareText } from './partnerText'

/** What a partner counted against what we did, thing by thing and day by day; gaps that are no chance are marked. */
defineProps<{ of: PartnerComparison }>()
const opened = reactive(new Set<string>())
const toggle = (subject: string) => void (opened.delete(subject) || opened.add(subject))
/** What is said of two counts. */
function verdict({ marked, tooFew }: { marked: boolean; tooFew: boolean }) {
  if (marked) return t('partners.moreThanNormal')
  return tooFew ? t('partners.tooFewToSay') : t('partners.normal')
}
</script>

<template>
  <div class="scroller" tabindex="0" role="region" :aria-label="$t('partners.countsOf', { name: of.name })">
    <table>
      <thead>
        <tr>
          <th scope="col">{{ $t('partners.subject') }}</th>
          <th scope="col">{{ $t('partners.ours') }}</th>
          <th scope="col">{{ $t('partners.theirs') }}</th>
          <th scope="col">{{ $t('partners.difference') }}</th>
          <th scope="col">{{ $t('partners.gap') }}</th>
        </tr>
      </thead>
      <tbody v-for="line in of.lines" :key="line.subject">
        <tr :class="{ marked: line.total.marked }">
          <th scope="row">
            <strong>{{ line.title || $t('partners.notKnownHere') }}</strong>
            <small>{{ line.subject }}</small>
            <button
              type="button"
              class="opens"
              :aria-expanded="opened.has(line.subject)"
              @click="toggle(line.subject)"
            >
              {{
                opened.has(line.subject)
                  ? $t('readings.closeItems')
                  : $t('partners.openDays', { n: line.days.length }, line.days.length)
              }}
            </button>
          </th>
          <td>{{ count(line.total.ours) }}</td>
          <td>{{ count(line.total.theirs) }}</td>
          <td>{{ line.total.tooFew ? '–' : shareText(line.total.share) }}</td>
          <td>{{ verdict(line.total) }}</td>
        </tr>
        <template v-if="opened.has(line.subject)">
          <tr v-for="day in line.days" :key="day.date" class="day" :class="{ marked: day.marked }">
            <th scope="row">{{ day.date }}</th>
            <td>{{ count(day.ours) }}</td>
            <td>{{ count(day.theirs) }}</td>
            <td>{{ day.tooFew ? '–' : shareText(day.share) }}</td>
            <td>{{ day.marked ? $t('partners.moreThanNormal') : '' }}</td>
          </tr>
        </template>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroller {
  overflow-x: auto;
  border: 1px solid var(--line-strong);
  border-radius: 6px;
  background: var(--surface);
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  padding: 7px 10px;
  text-align: right;
  border-top: 1px solid var(--line);
  vertical-align: top;
}
th:first-child {
  text-align: left;
  font-weight: 400;
  max-width: 24rem;
  overflow-wrap: anywhere;
}
thead th {
  font-size: 0.84rem;
  font-weight: 600;
  border-top: 0;
}
small {
  display: block;
  color: var(--ink-soft);
}
.marked td:last-child {
  color: var(--amber);
  font-weight: 600;
}
.day th {
  padding-left: 26px;
}
.day th,
.day td {
  font-size: 0.87rem;
  padding-block: 3px;
}
.opens {
  padding: 0;
  border: 0;
  background: none;
  font: inherit;
  font-size: 0.78rem;
  color: var(--accent);
  text-decoration: underline;
  cursor: pointer;
  min-height: 24px;
}
</style>
