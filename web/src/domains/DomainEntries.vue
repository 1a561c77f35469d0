<script setup lang="ts">
import { Copy } from '@lucide/vue'
import type { DomainView } from '@/api/client'
import ToolButton from '@/fields/ToolButton.vue'
import { t } from '@/i18n'
import { useCopy } from '@/shell/useCopy'

/** The entries to set in the DNS for a domain, to be copied piece by piece. */
const { domain } = defineProps<{ domain: DomainView }>()
const copy = useCopy()
type Entry = DomainView['entries'][number]
const why = (entry: Entry) => (entry.does === 'proof' ? t('domains.provesIt') : t('domains.leadsVisitors'))
const isShorter = (entry: Entry) => entry.short !== entry.name
</script>

<template>
  <div class="entries">
    <p class="soft">{{ $t('domains.whereToSetThem') }}</p>
    <div v-for="entry in domain.entries" :key="`${entry.type} ${entry.name} ${entry.value}`" class="entry">
      <p>
        <strong>{{ entry.type }}</strong> <span class="soft">{{ why(entry) }}</span>
      </p>
      <dl>
        <dt>{{ $t('domains.name') }}</dt>
        <dd>
          <code>{{ entry.name }}</code>
          <ToolButton
            :icon="Copy"
            :label="$t('domains.copyName', { type: entry.type })"
            @click="copy(entry.name, $t('domains.theName'))"
          />
          <small v-if="isShorter(entry)">
            {{ $t('domains.someFormsWant') }} <code>{{ entry.short }}</code>
          </small>
        </dd>
        <dt>{{ $t('domains.value') }}</dt>
        <dd>
          <code>{{ entry.value }}</code>
          <ToolButton
            :icon="Copy"
            :label="$t('domains.copyValue', { type: entry.type })"
            @click="copy(entry.value, $t('domains.theValue'))"
          />
        </dd>
      </dl>
    </div>
    <p class="soft">{{ $t('domains.howLongItTakes') }}</p>
  </div>
</template>

<style scoped>
.entries {
  display: grid;
  gap: 12px;
  padding-top: 4px;
}
.entries p {
  margin: 0;
}
.entry {
  border: 1px solid var(--line-strong);
  border-radius: 6px;
  background: var(--surface);
  padding: 10px 14px 12px;
}
dl {
  display: grid;
  grid-template-columns: max-content minmax(0, 1fr);
  gap: 4px 14px;
  margin: 6px 0 0;
  align-items: baseline;
}
dt {
  color: var(--ink-soft);
  font-size: 0.87rem;
}
dd {
  margin: 0;
  min-width: 0;
}
code {
  overflow-wrap: anywhere;
  font-size: 0.9rem;
}
small {
  display: block;
  color: var(--ink-soft);
}
</style>
