<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { signUpCountsQuery } from '@/api/queries'
import { count, counted } from '@/figures'
import TableLink from '@/shell/TableLink.vue'
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
      <TableLink v-if="any" href="/api/sign-ups.csv" />
    </div>
    <div class="list-and-service">
      <SignUpList v-if="any" />
      <ListService v-if="may.run.value" />
    </div>
  </div>
</template>
