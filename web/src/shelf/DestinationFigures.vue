<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { destinationReadingsQuery } from '@/api/queries'
import { count } from '@/figures'
import DailyClicks from './DailyClicks.vue'

/** How often people were led to a destination in the last 28 days, and from which places. */
const props = defineProps<{ id: string; names: Record<string, string> }>()
const { data: reading } = useQuery(destinationReadingsQuery(() => props.id))
</script>

<template>
  <section v-if="reading" aria-labelledby="led-there-title">
    <h3 id="led-there-title">{{ $t('shelf.ledThere') }}</h3>
    <p>
      <i18n-t keypath="shelf.clicksIn28Days" :plural="reading.clicks" scope="global">
        <template #n
          ><strong>{{ count(reading.clicks) }}</strong></template
        >
      </i18n-t>
    </p>
    <DailyClicks v-if="reading.clicks" :daily="reading.daily" :height="44" />
    <dl v-if="reading.uses.length">
      <template v-for="use in reading.uses" :key="`${use.endpoint} ${use.block} ${use.item}`">
        <dt>
          <RouterLink
            v-if="use.block"
            class="use"
            :to="{ name: 'one-button', params: { page: use.endpoint, block: use.block } }"
            >{{ use.title || names[use.endpoint] }}</RouterLink
          >
          <RouterLink v-else class="use" :to="{ name: 'shelf', params: { link: use.endpoint } }">{{
            names[use.endpoint] ?? $t('shelf.aShortLink')
          }}</RouterLink>
          <span class="soft">{{ use.block ? names[use.endpoint] : $t('shelf.aShortLink') }}</span>
        </dt>
        <dd>{{ count(use.clicks) }}</dd>
      </template>
    </dl>
    <template v-if="reading.addresses.length > 1">
      <h4>{{ $t('shelf.byAddress') }}</h4>
      <dl>
        <template v-for="led in reading.addresses" :key="led.address">
          <dt class="address">{{ led.address }}</dt>
          <dd>{{ count(led.clicks) }}</dd>
        </template>
      </dl>
    </template>
  </section>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 4px 12px;
  margin: 8px 0 0;
}
dt .soft {
  margin-left: 6px;
  font-size: 0.84rem;
}
h4 {
  margin: 12px 0 0;
  font-size: 0.9rem;
}
.address {
  overflow-wrap: anywhere;
}
dd {
  margin: 0;
  font-weight: 600;
}
</style>
