<script setup lang="ts">
import { Download } from '@lucide/vue'
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { signUpCountsQuery } from '@/api/queries'
import { count, counted } from '@/figures'
import { useMay } from '@/team/useMay'
import ListService from './ListService.vue'
import SignUpList from './SignUpList.vue'

/** Who left an e-mail address on a page, and where that is handed on to. */
const may = useMay()
const { data: counts } = useQuery(signUpCountsQuery())
const any = computed(() => !!counts.value && counts.value.confirmed + counts.value.waiting > 0)
</script>

<template>
  <div class="view">
    <div class="view-head">
      <div>
        <h1>{{ $t('signUps.signUps') }}</h1>
        <p v-if="counts && any">
          <strong>{{ counted(counts.confirmed, 'person') }}</strong>
          {{ $t('signUps.haveConfirmed', { n: count(counts.waiting) }, counts.waiting) }}
        </p>
        <p v-else-if="counts">{{ $t('signUps.nobodyYet') }}</p>
        <p v-if="counts && counts.confirmed > 0.9 * counts.most" class="notice">
          {{ $t('signUps.nearlyFull', { most: count(counts.most) }) }}
        </p>
      </div>
      <a v-if="any" class="save" href="/api/sign-ups.csv" download>
        <Download aria-hidden="true" /> {{ $t('signUps.asTable') }}
      </a>
    </div>
    <div class="parts">
      <SignUpList v-if="any" />
      <ListService v-if="may.run.value" />
    </div>
  </div>
</template>

<style scoped>
.save {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  padding: 4px 12px;
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  background: var(--surface);
  color: var(--ink);
  text-decoration: none;
  font-size: 0.875rem;
}
.save svg {
  width: 15px;
  height: 15px;
}
.parts {
  display: grid;
  gap: 28px 36px;
  align-items: start;
}
@media (min-width: 64rem) {
  .parts:has(> :nth-child(2)) {
    grid-template-columns: minmax(0, 1fr) 19rem;
  }
}
</style>
