<script setup lang="ts">
import { t } from '@/i18n'
import type { Block } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import FieldText from '@/fields/FieldText.vue'
import { leadTo } from '@/page/leadTo'
import FieldPicture from '@/pictures/FieldPicture.vue'
import FieldAddress from './FieldAddress.vue'
import { PLAIN } from './plain'
import { useContent } from './useContent'

const props = defineProps<{ block: Block }>()
const { content, set, change } = useContent(() => props.block, 'offer')
const ways = [
  { value: 'row', label: t('kinds.asARow') },
  { value: 'catalogue', label: t('kinds.twoSideBySide') },
] as const

/** A price is none without its currency, so the two are set together. */
function setPrice(amount: string) {
  change(
    t('kinds.changeThePrice'),
    (offer) => {
      offer.amount = amount
      offer.currency ||= 'EUR'
    },
    'amount',
  )
}
</script>

<template>
  <FieldText
    :label="$t('common.name')"
    at="name"
    :model-value="content.name"
    :maxlength="120"
    @update:model-value="set('name', $event)"
  />
  <FieldText
    :label="$t('common.text')"
    at="text"
    :model-value="content.text"
    :maxlength="300"
    :lines="2"
    @update:model-value="set('text', $event)"
  />
  <div class="price">
    <FieldText
      :label="$t('kinds.price')"
      :model-value="content.amount"
      :maxlength="20"
      inputmode="decimal"
      at="amount"
      placeholder="24.50"
      @update:model-value="setPrice"
    />
    <FieldText
      :label="$t('kinds.currency')"
      at="currency"
      :model-value="content.currency"
      :maxlength="3"
      :placeholder="$t('kinds.eur')"
      :hint="$t('kinds.iso4217')"
      @update:model-value="set('currency', $event.toUpperCase())"
    />
  </div>
  <FieldAddress
    :label="$t('common.leadsTo')"
    at="address"
    :model-value="content.address"
    :still="$t('kinds.theOfferStillLeads')"
    @update:model-value="change($t('kinds.changeTheAddress'), (lead) => leadTo(lead, $event), 'address')"
  />
  <FieldSwitch
    v-bind="PLAIN"
    :model-value="content.plain"
    @update:model-value="set('plain', $event, $t('kinds.plainAddress'))"
  />
  <FieldPicture
    :label="$t('common.picture')"
    :model-value="content.picture"
    use="column"
    :aspect="1"
    :alt="$t('kinds.pictureOfTheOffer')"
    @update:model-value="set('picture', $event)"
  />
  <FieldChoice
    :label="$t('kinds.howItIsShown')"
    :model-value="content.shown ?? 'row'"
    :options="ways"
    @update:model-value="set('shown', $event, $t('kinds.wayItIsShown'))"
  />
</template>

<style scoped>
.price {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 7rem;
  gap: 10px;
}
.price :deep(input) {
  width: 100%;
}
</style>
