<script setup lang="ts">
import { Copy } from '@lucide/vue'
import { useQuery } from '@tanstack/vue-query'
import type { ListedLink } from '@/api/client'
import { workspaceQuery } from '@/api/queries'
import ToolButton from '@/fields/ToolButton.vue'
import { count } from '@/figures'
import { useCopy } from '@/shell/useCopy'
import DailyClicks from './DailyClicks.vue'
import { bare, stateWords } from './shortLinks'

/** The short links of the workspace, one a row: its address, where it leads, and how much it is used. */
defineProps<{ links: ListedLink[]; opened: string | undefined }>()
const copy = useCopy()
const { data: workspace } = useQuery(workspaceQuery())
</script>

<template>
  <ul class="links" :aria-label="$t('shelf.shortLinks')">
    <li
      v-for="each in links"
      :key="each.id"
      :class="[each.state.replace(' ', '-'), { opened: each.id === opened }]"
    >
      <div class="address">
        <RouterLink
          :to="{ name: 'shelf', params: { link: each.id }, query: $route.query }"
          :aria-current="each.id === opened ? 'true' : undefined"
          ><span class="soft">{{ bare(each.shortAddress).split('/')[0] }}/</span
          >{{ each.address }}</RouterLink
        >
        <ToolButton
          v-tooltip.top="$t('common.copyTheAddress')"
          :icon="Copy"
          :label="$t('shelf.copy', { address: bare(each.shortAddress) })"
          @click="copy(each.shortAddress, $t('shelf.theAddressOf', { name: each.link.name }))"
        />
      </div>
      <p class="leads" :title="each.link.destination">
        <span aria-hidden="true">→</span> <strong>{{ each.link.name }}</strong>
        <span class="soft target">{{ bare(each.link.destination) }}</span>
      </p>
      <p class="about">
        <span class="state">{{ stateWords(each, workspace?.zone) }}</span>
        <span v-for="label in each.link.labels" :key="label" class="label">{{ label }}</span>
      </p>
      <div class="days" :title="$t('shelf.clicksIn28Days', { n: count(each.clicks) }, each.clicks)">
        <DailyClicks :daily="each.daily" />
      </div>
      <p class="clicks">
        <i18n-t keypath="counts.click" :plural="each.clicks" class="soft" tag="span" scope="global">
          <template #n
            ><strong>{{ count(each.clicks) }}</strong></template
          >
        </i18n-t>
      </p>
    </li>
  </ul>
</template>

<style scoped>
.links {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--line-strong);
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 150px 84px;
  grid-template-areas: 'address days clicks' 'leads days clicks' 'about days clicks';
  gap: 2px 18px;
  align-items: center;
  padding: 10px 12px 10px 14px;
  border-bottom: 1px solid var(--line);
  border-left: 3px solid var(--accent);
  position: relative;
}
li:hover {
  background: var(--surface);
}
li.opened {
  background: var(--surface);
  box-shadow: inset 0 0 0 1px var(--line-strong);
}
li.off,
li.over {
  border-left-color: var(--line-strong);
}
li.off :is(.leads, .address a),
li.over :is(.leads, .address a) {
  color: var(--ink-soft);
}
li.before {
  border-left-color: var(--amber);
}
.address {
  grid-area: address;
  display: flex;
  align-items: center;
  gap: 8px;
  font-family: var(--font-head);
  font-size: 1.1rem;
  font-weight: 650;
}
.address a {
  color: var(--ink);
  text-decoration: none;
  overflow-wrap: anywhere;
}
.address a .soft {
  font-weight: 400;
}
/* The whole row opens the link. */
.address a::after {
  content: '';
  position: absolute;
  inset: 0;
}
.address .tool {
  position: relative;
  flex: none;
}
.leads {
  grid-area: leads;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.leads strong {
  font-weight: 600;
}
.target {
  font-size: 0.87rem;
  margin-left: 4px;
}
.about {
  grid-area: about;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  font-size: 0.82rem;
  color: var(--ink-soft);
}
.before .state {
  color: var(--amber);
  font-weight: 600;
}
.label {
  padding: 0 7px;
  border: 1px solid var(--line-strong);
  border-radius: 9px;
}
.days {
  grid-area: days;
}
.clicks {
  grid-area: clicks;
  text-align: right;
}
.clicks strong {
  font-size: 1.1rem;
}
@media (max-width: 720px) {
  li {
    grid-template-columns: minmax(0, 1fr) auto;
    grid-template-areas: 'address clicks' 'leads leads' 'about about';
  }
  .days,
  .address a .soft {
    display: none;
  }
}
</style>
