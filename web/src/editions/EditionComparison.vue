<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Select from 'primevue/select'
import { useToast } from 'primevue/usetoast'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { comparedEditionQuery } from '@/api/queries'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import PagePiece from '@/page/PagePiece.vue'
import { usePageStore } from '@/page/pageStore'
import ComparedBlock from './ComparedBlock.vue'

/** An edition beside another or the working copy, row by row; and the way back to it. */
const props = defineProps<{ pageId: string; number: number; latest: number }>()
const page = usePageStore()
const router = useRouter()
const toast = useToast()
const beside = ref(0)
const others = computed(() => [
  { value: 0, label: t('editions.workingCopy') },
  ...Array.from({ length: Math.min(props.latest, 200) }, (_, i) => props.latest - i)
    .filter((number) => number !== props.number)
    .map((value) => ({ value, label: t('editions.edition', { n: value }) })),
])
const { data: compared, error } = useQuery(
  comparedEditionQuery(
    () => props.pageId,
    () => props.number,
    beside,
    () => page.state?.revision,
  ),
)
const isThere = computed(() => beside.value === 0 && compared.value?.changes.length === 0)

async function putBack() {
  const { document } = compared.value!.first
  page.change(t('editions.putBackStep', { n: props.number }), (draft) => {
    Object.assign(draft, JSON.parse(JSON.stringify(document)))
  })
  toast.add({
    severity: 'info',
    summary: t('editions.isBack', { n: props.number }),
    detail: t('editions.publishIt'),
    life: 10_000,
  })
  await router.push({ name: 'arrange', params: { page: props.pageId } })
}
</script>

<template>
  <section class="comparison" :aria-label="$t('editions.edition', { n: number })">
    <WrongText :text="error?.message" />
    <div class="heads">
      <h2>{{ $t('editions.edition', { n: number }) }}</h2>
      <Select
        v-model="beside"
        class="beside"
        :options="others"
        option-value="value"
        option-label="label"
        :aria-label="$t('editions.besideIt')"
      />
    </div>
    <template v-if="compared">
      <ul v-if="compared.changes.length" class="changes small">
        <li v-for="(change, i) in compared.changes" :key="i">{{ change.sentence }}</li>
      </ul>
      <p v-else class="soft small">{{ $t('editions.noDifference') }}</p>
      <Button
        :label="$t('editions.putBack', { n: number })"
        :disabled="isThere || !page.loaded"
        @click="putBack"
      />
      <div class="table">
        <div class="pair head">
          <div v-for="(side, i) in [compared.first, compared.second]" :key="i">
            <PagePiece class="cell" :html="side.strip.header" :strip="side.strip" />
          </div>
        </div>
        <div
          v-for="row in compared.rows"
          :key="`${row.key}${row.first}${row.second}`"
          class="pair"
          :class="{ same: row.same && !row.moved }"
        >
          <ComparedBlock
            v-for="(side, i) in [compared.first, compared.second]"
            :key="i"
            :side="side"
            :row="row"
            :here="i === 0 ? row.first : row.second"
          />
        </div>
      </div>
    </template>
  </section>
</template>

<style scoped>
.comparison {
  display: grid;
  gap: 14px;
  justify-items: start;
  min-width: 0;
}
.heads {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 20px;
  align-items: center;
  width: min(100%, 620px);
}
.beside {
  justify-self: start;
  max-width: 100%;
}
.changes {
  margin: 0;
  padding-left: 18px;
}
.table {
  display: grid;
  width: min(100%, 620px);
  border: 1px solid var(--line-strong);
  border-radius: 8px;
  overflow: hidden;
}
.pair {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  column-gap: 1px;
  background: var(--line-strong);
  position: relative;
}
.pair > :deep(*) {
  background: var(--ground);
  padding: 5px 14px;
}
.pair:not(.same):not(.head)::before {
  content: '';
  position: absolute;
  inset: 0 auto 0 0;
  width: 4px;
  background: var(--amber);
}
.pair.same :deep(.cell) {
  opacity: 0.55;
}
.pair :deep(.cell) {
  zoom: 0.8;
}
@media (max-width: 720px) {
  .heads {
    grid-template-columns: minmax(0, 1fr);
    gap: 6px;
  }
  .pair :deep(.cell) {
    zoom: 0.5;
  }
  .pair > :deep(*) {
    padding: 3px 6px;
  }
}
</style>
