<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { useToast } from 'primevue/usetoast'
import { computed } from 'vue'
import { orderQuery } from '@/api/queries'
import { momentWords } from '@/arrange/stateWords'
import { percent } from '@/figures'
import { t } from '@/i18n'
import { usePageStore } from '@/page/pageStore'
import { useSession } from '@/session'
import { useMay } from '@/team/useMay'
import { aroundWords } from './aroundWords'

/** How much each button pulls for its place, and an order in which more would be pressed, where there is one. */
const props = defineProps<{ pageId: string }>()
const page = usePageStore()
const may = useMay()
const toast = useToast()
const zone = useSession().me?.zone ?? 'UTC'
const { data: advice, error } = useQuery(
  orderQuery(
    () => props.pageId,
    () => page.state?.revision,
  ),
)

const titles = computed(() => new Map(advice.value?.blocks.map(({ block, title }) => [block, title])))
const rows = computed(() => {
  const then = new Map(advice.value?.order.map((key, i) => [key, i + 1]))
  return (advice.value?.blocks ?? []).map((block) => ({
    ...block,
    seen: advice.value?.seen[block.place - 1],
    then: advice.value?.offered ? then.get(block.block) : undefined,
  }))
})
const widest = computed(() => Math.max(1.5, ...rows.value.map(({ pull }) => pull ?? 0)))
const points = (gain: number) => gain.toFixed(1)
const words = computed(() => {
  if (!advice.value) return ''
  const { offered, gain, low, high, order, told } = advice.value
  if (told === 'few') return t('readings.tooFewForOrder', { n: advice.value.enough })
  if (told === 'fixed') return t('readings.orderNeverChanged')
  if (!offered) return told === 'some' ? t('readings.orderOfSomeIsFine') : t('readings.orderIsFine')
  const first = order.find((key) => titles.value.has(key))
  const title = titles.value.get(first ?? '') ?? ''
  return t('readings.orderGain', { title, gain: points(gain), low: points(low), high: points(high) })
})

/** Which order is told of, and what is compared. */
const came = computed(() => {
  if (!advice.value?.came) return ''
  const { edition, at, around } = advice.value.came
  const words = { edition, when: momentWords(at, zone), weeks: around.weeks }
  return around.weeks ? t('readings.cameOfOrder', words, around.weeks) : t('readings.orderLiveSince', words)
})

/** Puts the page in that order, as one step that can be undone. */
function tryIt() {
  const place = new Map(advice.value?.order.map((key, i) => [key, i]))
  page.change(t('readings.tryOrderStep'), (draft) => {
    const moving = draft.blocks
      .filter(({ key }) => place.has(key))
      .sort((a, b) => place.get(a.key)! - place.get(b.key)!)
    // What is not shown stays where it is.
    draft.blocks = draft.blocks.map((block) => (place.has(block.key) ? moving.shift()! : block))
  })
  toast.add({ severity: 'success', summary: t('readings.orderTried'), life: 6000 })
}
</script>

<template>
  <section aria-labelledby="order-title">
    <h2 id="order-title">{{ $t('readings.order') }}</h2>
    <p v-if="error" class="notice">{{ error.message }}</p>
    <template v-else-if="advice">
      <p class="words">
        {{ words }}
        <Button
          v-if="advice.offered && may.edit.value"
          size="small"
          :label="$t('readings.tryOrder')"
          @click="tryIt"
        />
        <RouterLink
          v-if="advice.offered && may.edit.value"
          :to="{ name: 'trials', params: { page: pageId }, query: { order: advice.order.join('.') } }"
          >{{ $t('readings.tryOnHalf') }}</RouterLink
        >
        <RouterLink v-else :to="{ name: 'trials', params: { page: pageId } }">{{
          advice.told === 'fixed' ? $t('readings.tryAnOrder') : $t('readings.tryVariants')
        }}</RouterLink>
      </p>
      <p v-if="advice.came" class="words">
        {{ came }}
        {{ aroundWords(advice.came.around) }}
      </p>
      <div
        v-if="rows.length"
        class="scroller"
        tabindex="0"
        role="region"
        :aria-label="$t('readings.orderTable')"
      >
        <table>
          <thead>
            <tr>
              <th scope="col">{{ $t('common.button') }}</th>
              <th scope="col">{{ $t('readings.placeNow') }}</th>
              <th v-if="advice.offered" scope="col">{{ $t('readings.placeThen') }}</th>
              <th scope="col">
                {{ advice.measured ? $t('readings.placeOnScreen') : $t('readings.placeSeen') }}
              </th>
              <th scope="col" class="pull">{{ $t('readings.pull') }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in rows" :key="row.block">
              <th scope="row">{{ row.title }}</th>
              <td>{{ row.place }}</td>
              <td v-if="advice.offered" :class="{ moved: row.then !== row.place }">{{ row.then }}</td>
              <td>{{ row.seen == null ? '–' : percent(row.seen) }}</td>
              <td class="pull">
                <template v-if="row.pull !== undefined">
                  <span class="bar" aria-hidden="true"
                    ><span :style="{ width: `${(100 * row.pull) / widest}%` }"></span
                    ><i :style="{ left: `${100 / widest}%` }"></i
                  ></span>
                  {{ row.pull.toFixed(1) }}
                </template>
                <span v-else class="soft">{{ $t('readings.tooNew') }}</span>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <p class="soft small">
        {{ advice.measured ? $t('readings.pullMeasuredSays') : $t('readings.pullSays') }}
      </p>
    </template>
  </section>
</template>

<style scoped>
h2 {
  margin-bottom: 10px;
}
.words {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 16px;
  max-width: 60rem;
  margin-bottom: 8px;
}
.scroller {
  overflow-x: auto;
  max-width: 60rem;
}
table {
  border-collapse: collapse;
  border: 1px solid var(--line-strong);
  background: var(--surface);
  width: 100%;
  max-width: 60rem;
}
th,
td {
  padding: 6px 10px;
  text-align: right;
  border-top: 1px solid var(--line);
}
th:first-child {
  text-align: left;
}
thead th {
  border-top: 0;
  font-size: 0.84rem;
  vertical-align: bottom;
}
.moved {
  font-weight: 700;
  color: var(--accent);
}
.pull {
  white-space: nowrap;
}
.bar {
  position: relative;
  display: inline-block;
  width: min(120px, 18vw);
  height: 8px;
  margin-right: 8px;
  background: var(--line);
}
.bar span {
  position: absolute;
  inset: 0 auto 0 0;
  background: var(--accent);
}
/* Average. */
.bar i {
  position: absolute;
  top: -3px;
  bottom: -3px;
  width: 2px;
  background: var(--ink);
}
</style>
