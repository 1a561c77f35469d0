<script setup lang="ts">
import { SlidersHorizontal } from '@lucide/vue'
import type { PageSummary } from '@/api/client'
import { counted } from '@/figures'
import { t } from '@/i18n'
import PageMark from './PageMark.vue'
import { nameOf, standingWords } from './standing'

/** One page in the list of them: what it is, how it stands, and what was pressed this week. */
defineProps<{ page: PageSummary; host: string }>()
</script>

<template>
  <li>
    <PageMark :page="page" :size="48" />
    <div class="what">
      <RouterLink
        class="name"
        :to="{ name: page.empty ? 'starters' : 'arrange', params: { page: page.id } }"
        >{{ nameOf(page) }}</RouterLink
      >
      <span class="soft address">{{ host }}/{{ page.address }}</span>
      <span v-if="page.labels.length" class="labels"
        ><span v-for="label in page.labels" :key="label" class="label">{{ label }}</span></span
      >
    </div>
    <p class="standing" :class="{ amber: !['live', 'draft'].includes(page.state) }">
      <span class="lamp" :class="{ lit: page.state === 'live' }" aria-hidden="true"></span>
      <span
        >{{ standingWords(page)
        }}<template v-if="page.edited && page.state === 'live'"
          >, <span class="soft">{{ $t('pages.edited') }}</span></template
        ></span
      >
    </p>
    <p class="week">
      <strong>{{ counted(page.clicks, 'click') }}</strong><span class="soft">{{
        counted(page.visits, 'visit')
      }}</span>
    </p>
    <slot>
      <RouterLink
        v-tooltip.left="t('shell.aboutThisPage')"
        class="tool"
        :to="{ name: 'page-settings', params: { page: page.id } }"
        :aria-label="$t('pages.settingsOf', { name: nameOf(page) })"
        ><SlidersHorizontal aria-hidden="true"
      /></RouterLink>
    </slot>
  </li>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) 15rem 7rem auto;
  align-items: center;
  gap: 6px 18px;
  padding: 12px 4px;
  border-top: 1px solid var(--line);
}
.what {
  display: grid;
  gap: 1px;
  min-width: 0;
}
.name {
  font-family: var(--font-head);
  font-weight: 600;
  font-size: 1.05rem;
  color: inherit;
  overflow-wrap: anywhere;
}
.address {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.labels {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 6px;
  margin-top: 3px;
}
.label {
  padding: 0 10px;
  border: 1px solid var(--line-strong);
  border-radius: 10px;
  font-size: 0.8rem;
}
p {
  margin: 0;
}
.standing {
  display: flex;
  align-items: center;
  gap: 8px;
}
.amber {
  color: var(--amber);
}
.lamp {
  flex: none;
  width: 9px;
  height: 9px;
  border-radius: 50%;
  border: 2px solid currentColor;
}
.lamp.lit {
  border-color: #009e73;
  background: #009e73;
}
.week {
  display: grid;
  text-align: right;
  font-variant-numeric: tabular-nums;
}
@media (max-width: 720px) {
  li {
    grid-template-columns: auto minmax(0, 1fr) auto;
  }
  .standing {
    grid-column: 2;
    grid-row: 2;
  }
  .week {
    grid-column: 2 / -1;
    display: flex;
    gap: 10px;
    text-align: left;
  }
  li > :last-child {
    grid-column: 3;
    grid-row: 1;
  }
}
</style>
