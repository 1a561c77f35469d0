<script setup lang="ts">
import { leadTo } from '@/page/leadTo'
import type { Block } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import FieldText from '@/fields/FieldText.vue'
import FieldPicture from '@/pictures/FieldPicture.vue'
import FieldAddress from './FieldAddress.vue'
import { PLAIN } from './plain'
import { useContent } from './useContent'

const props = defineProps<{ block: Block }>()
const { content, set, change } = useContent(() => props.block, 'offer')
const ways = [
  { value: 'row', label: 'As a row' },
  { value: 'catalogue', label: 'Two side by side' },
] as const

/** A price is none without its currency, so the two are set together. */
function setPrice(amount: string) {
  change(
    'Change the price',
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
    label="Name"
    at="name"
    :model-value="content.name"
    :maxlength="120"
    @update:model-value="set('name', $event)"
  />
  <FieldText
    label="Text"
    at="text"
    :model-value="content.text"
    :maxlength="300"
    :lines="2"
    @update:model-value="set('text', $event)"
  />
  <div class="price">
    <FieldText
      label="Price"
      :model-value="content.amount"
      :maxlength="20"
      inputmode="decimal"
      at="amount"
      placeholder="24.50"
      @update:model-value="setPrice"
    />
    <FieldText
      label="Currency"
      at="currency"
      :model-value="content.currency"
      :maxlength="3"
      placeholder="EUR"
      hint="ISO 4217"
      @update:model-value="set('currency', $event.toUpperCase())"
    />
  </div>
  <FieldAddress
    label="Leads to"
    at="address"
    :model-value="content.address"
    still="The offer still leads to where it did."
    @update:model-value="change('Change the address', (lead) => leadTo(lead, $event), 'address')"
  />
  <FieldSwitch
    v-bind="PLAIN"
    :model-value="content.plain"
    @update:model-value="set('plain', $event, 'plain address')"
  />
  <FieldPicture
    label="Picture"
    :model-value="content.picture"
    use="column"
    :aspect="1"
    alt="Picture of the offer"
    @update:model-value="set('picture', $event)"
  />
  <FieldChoice
    label="How it is shown"
    :model-value="content.shown ?? 'row'"
    :options="ways"
    @update:model-value="set('shown', $event, 'way it is shown')"
  />
</template>

<style scoped>
.price {
  display: grid;
  grid-template-columns: 1fr 7rem;
  gap: 10px;
}
</style>
