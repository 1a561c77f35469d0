<script setup lang="ts">
import { CircleAlert, CircleDashed } from '@lucide/vue'
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Skeleton from 'primevue/skeleton'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, take, type Finding } from '@/api/client'
import { checkQuery } from '@/api/queries'
import { copyJson } from '@/saving/json'
import { t } from '@/i18n'
import { titleOf } from '@/page/blockWords'
import { usePageStore } from '@/page/pageStore'
import TitleLines from '@/page/TitleLines.vue'

/** What is wrong or weak about the page, each with its row, why it matters, and the repair where there is one. */
const route = useRoute()
const page = usePageStore()
const client = useQueryClient()
const pageId = computed(() => String(route.params.page))
const { data: check, error, isPlaceholderData } = useQuery(checkQuery(pageId, () => page.state?.revision))

/** On how many lines titles stand on a phone, by the keys of their blocks. */
const lines = ref(new Map<string, number>())
const findings = computed<Finding[]>(() => {
  const found = check.value?.findings ?? []
  const wraps = (page.document?.blocks ?? []).flatMap((block): Finding[] => {
    const n = lines.value.get(block.key) ?? 1
    if (n < 2) return []
    const said = { says: t('check.titleWraps', n), why: t('check.titleWrapsWhy') }
    return [{ kind: 'wraps', weight: 'weak', row: block.key, name: titleOf(block), ...said }]
  })
  return [...found, ...wraps]
})
const faults = computed(() => findings.value.filter(({ weight }) => weight === 'wrong').length)
const weak = computed(() => findings.value.length - faults.value)
const sum = computed(() => {
  if (!check.value) return ''
  const said = [faults.value && t('check.faults', faults.value), weak.value && t('check.weak', weak.value)]
  return said.filter(Boolean).join(', ') || t('check.nothing')
})

const ask = useMutation({
  mutationFn: () => take(api.POST('/api/pages/{page}/check', { params: { path: { page: pageId.value } } })),
  onSuccess: () => client.invalidateQueries({ queryKey: ['check'] }),
})

/** Where what was found is changed. */
const place = ({ row }: Finding) =>
  row === 'look'
    ? { name: 'look', params: { page: pageId.value } }
    : { name: 'arrange', params: { page: pageId.value }, query: { open: row } }

/** What would mend a block was made from it as it is saved: what is typed since must not be lost by it. */
const mayMend = computed(() => !isPlaceholderData.value && page.saving === 'saved')

function mend({ row, name, repair }: Finding) {
  if (!repair) return
  const { block: mended, look } = repair
  page.change(t('check.mend', { name }), (draft) => {
    if (look) draft.look = copyJson(look)
    if (mended) draft.blocks = draft.blocks.map((block) => (block.key === row ? copyJson(mended) : block))
  })
}
</script>

<template>
  <div class="view">
    <div class="view-head">
      <div>
        <h1>{{ $t('check.check') }}</h1>
        <p role="status">{{ sum }}</p>
      </div>
      <div class="ways">
        <RouterLink class="walk" :to="{ name: 'walk', params: { page: pageId } }">{{
          $t('check.walkAll')
        }}</RouterLink>
        <Button
          size="small"
          severity="secondary"
          :label="$t('check.askNow')"
          :loading="ask.isPending.value"
          @click="ask.mutate()"
        />
      </div>
    </div>
    <p v-if="error ?? ask.error.value" class="notice">{{ (error ?? ask.error.value)?.message }}</p>
    <p v-if="check?.waiting" class="soft">{{ $t('check.waiting', check.waiting) }}</p>
    <TitleLines
      v-if="page.state && page.document"
      :strip="page.state.strip"
      :blocks="page.document.blocks.filter(({ shown }) => shown)"
      @measured="lines = $event"
    />
    <ul v-if="!check" class="findings" aria-busy="true">
      <li v-for="n in 4" :key="n"><Skeleton height="64px" /></li>
    </ul>
    <p v-else-if="findings.length === 0 && check.waiting === 0" class="fine">{{ $t('check.fine') }}</p>
    <ul v-else-if="findings.length" class="findings" :aria-label="$t('check.found')">
      <li v-for="(each, i) in findings" :key="i" :class="each.weight">
        <component
          :is="each.weight === 'wrong' ? CircleAlert : CircleDashed"
          class="sign"
          aria-hidden="true"
        />
        <div>
          <h2>{{ each.name }}</h2>
          <p>
            <span class="visually-hidden">{{
              each.weight === 'wrong' ? $t('check.fault') : $t('check.couldBeBetter')
            }}</span>
            {{ each.says }}
          </p>
          <p class="soft small">{{ each.why }}</p>
        </div>
        <div class="actions">
          <Button
            v-if="each.repair"
            size="small"
            severity="secondary"
            :label="each.repair.label"
            :aria-label="`${each.repair.label}: ${each.name}`"
            :disabled="!mayMend"
            @click="mend(each)"
          />
          <RouterLink v-if="each.row !== 'header'" :to="place(each)"
            >{{ $t('check.open') }}<span class="visually-hidden"> {{ each.name }}</span></RouterLink
          >
        </div>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.ways {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 16px;
}
.walk {
  font-weight: 600;
}
.findings {
  list-style: none;
  margin: 12px 0 0;
  padding: 0;
  max-width: 820px;
}
.findings li {
  display: grid;
  grid-template-columns: 24px minmax(0, 1fr) auto;
  gap: 4px 14px;
  padding: 14px 0;
  border-top: 1px solid var(--line);
}
.sign {
  width: 20px;
  height: 20px;
  color: var(--ink-soft);
}
.wrong .sign {
  color: var(--amber);
}
h2 {
  font-size: 1rem;
  margin: 0;
  overflow-wrap: anywhere;
}
li p {
  margin: 2px 0 0;
  overflow-wrap: anywhere;
}
.actions {
  display: flex;
  flex-direction: column;
  align-items: flex-end;
  gap: 8px;
}
.fine {
  font-size: 1.05rem;
}
@media (max-width: 720px) {
  .findings li {
    grid-template-columns: 24px minmax(0, 1fr);
  }
  .actions {
    grid-column: 2;
    flex-direction: row;
    align-items: center;
    gap: 16px;
    margin-top: 6px;
  }
}
</style>
