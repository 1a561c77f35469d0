<script setup lang="ts">
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import type { Block } from '@/api/client'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import FieldText from '@/fields/FieldText.vue'
import { t } from '@/i18n'
import { amountText, readAmount, readAmounts } from './amounts'
import { useContent } from './useContent'

/** A form by which visitors pay: a tip, or a price. */
const props = defineProps<{ block: Block }>()
const { content, set, change } = useContent(() => props.block, 'payment')
const amounts = computed(() =>
  content.value.amounts.map((minor) => amountText(minor, content.value.currency)).join('  '),
)
const wrong = ref<string>()

function setAmounts(text: string) {
  const read = readAmounts(text, content.value.currency)
  wrong.value = read ? undefined : t('kinds.notAmounts')
  if (read) set('amounts', read, t('kinds.changeTheAmounts'))
}

/** Another currency has other smallest units; what is written stays. */
function setCurrency(text: string) {
  change(
    t('kinds.changeTheCurrency'),
    (payment) => {
      const written = payment.amounts.map((minor) => amountText(minor, payment.currency))
      payment.currency = text.toUpperCase()
      payment.amounts = written.flatMap((each) => readAmount(each, payment.currency) ?? [])
    },
    'currency',
  )
}
</script>

<template>
  <FieldText
    :label="$t('common.title')"
    at="title"
    :model-value="content.title"
    :maxlength="120"
    @update:model-value="set('title', $event)"
  />
  <FieldText
    :label="$t('kinds.whatItIsFor')"
    at="text"
    :model-value="content.text"
    :maxlength="300"
    :lines="2"
    @update:model-value="set('text', $event)"
  />
  <div class="money">
    <FieldText
      :label="$t('kinds.amounts')"
      at="amounts"
      :model-value="amounts"
      :maxlength="80"
      inputmode="decimal"
      lazy
      :hint="$t('kinds.blanksBetween')"
      :wrong="wrong"
      @update:model-value="setAmounts"
    />
    <FieldText
      :label="$t('kinds.currency')"
      at="currency"
      :model-value="content.currency"
      :maxlength="3"
      :placeholder="$t('kinds.eur')"
      lazy
      @update:model-value="setCurrency"
    />
  </div>
  <FieldSwitch
    :label="$t('kinds.ownAmount')"
    :model-value="content.own"
    @update:model-value="set('own', $event, $t('kinds.ownAmount'))"
  />
  <FieldSwitch
    :label="$t('kinds.aWordWithIt')"
    :model-value="content.word"
    @update:model-value="set('word', $event, $t('kinds.aWordWithIt'))"
  />
  <FieldText
    :label="$t('kinds.onTheButton')"
    at="button"
    :model-value="content.button"
    :maxlength="40"
    :hint="$t('kinds.leftEmptyPay')"
    @update:model-value="set('button', $event)"
  />
  <FieldText
    :label="$t('kinds.saidOncePaid')"
    at="thanks"
    :model-value="content.thanks"
    :maxlength="300"
    :lines="2"
    @update:model-value="set('thanks', $event)"
  />
  <p class="soft">
    {{ $t('kinds.paidByYourService') }}
    <RouterLink class="more" :to="{ name: 'income' }">{{ $t('kinds.toTheIncome') }}</RouterLink>
  </p>
</template>

<style scoped>
.money {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 6rem;
  gap: 10px;
  align-items: start;
}
.money :deep(input) {
  width: 100%;
}
</style>
