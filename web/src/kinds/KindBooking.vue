<script setup lang="ts">
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import type { Block } from '@/api/client'
import FieldText from '@/fields/FieldText.vue'
import WeeklyRows from '@/fields/WeeklyRows.vue'
import { t } from '@/i18n'
import { useZone } from '@/shell/useZone'
import { amountText, readAmount } from './amounts'
import { useContent } from './useContent'

/** Times that visitors can ask for. */
const props = defineProps<{ block: Block }>()
const { content, set, change } = useContent(() => props.block, 'booking')
const zone = useZone()
type Weekly = NonNullable<NonNullable<typeof content.value.hours>['weekly']>

const setHours = (weekly: Weekly) =>
  set('hours', weekly.length ? { zone: zone.value, weekly } : undefined, t('kinds.hoursToAskFor'))

/** Whole numbers, each with what it may be. */
const NUMBERS = [
  { at: 'minutes', label: t('kinds.minutes'), least: 5, most: 720 },
  { at: 'notice', label: t('kinds.hoursBefore'), least: 0, most: 336 },
  { at: 'ahead', label: t('kinds.daysAhead'), least: 1, most: 90 },
] as const
type Number = (typeof NUMBERS)[number]
const wrong = ref<Partial<Record<Number['at'] | 'price', string>>>({})

function setNumber({ at, label, least, most }: Number, text: string) {
  const read = /^\d{1,4}$/.test(text.trim()) ? Number(text) : -1
  const fits = read >= least && read <= most
  wrong.value[at] = fits ? undefined : t('kinds.aNumberFrom', { least, most })
  if (fits) set(at, read, label)
}

const price = computed(() =>
  content.value.price ? amountText(content.value.price, content.value.currency ?? 'EUR') : '',
)

function setPrice(text: string) {
  const currency = content.value.currency || 'EUR'
  const read = text.trim() ? readAmount(text, currency) : 0
  wrong.value.price = read === undefined ? t('kinds.noAmount') : undefined
  if (read === undefined) return
  change(t('kinds.changeThePrice'), (booking) =>
    Object.assign(booking, { price: read || undefined, currency: read ? currency : undefined }),
  )
}

/** Another currency has other smallest units; what is written stays. */
function setCurrency(text: string) {
  const written = price.value
  change(
    t('kinds.changeTheCurrency'),
    (booking) => {
      booking.currency = text.toUpperCase()
      booking.price = readAmount(written, booking.currency) ?? booking.price
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
  <FieldText
    :label="$t('kinds.whereItIs')"
    at="where"
    :model-value="content.where"
    :maxlength="160"
    @update:model-value="set('where', $event)"
  />
  <div class="field">
    <span class="label">{{ $t('kinds.hoursToAskFor') }}</span>
    <WeeklyRows :model-value="content.hours?.weekly ?? []" @update:model-value="setHours" />
    <p v-if="content.hours" class="hint">
      {{ $t('fields.byTheClocksOf', { zone: content.hours.zone.replaceAll('_', ' ') }) }}
    </p>
  </div>
  <div class="numbers">
    <FieldText
      v-for="number in NUMBERS"
      :key="number.at"
      :label="number.label"
      :at="number.at"
      :model-value="String(content[number.at] ?? 0)"
      :maxlength="4"
      inputmode="decimal"
      lazy
      :wrong="wrong[number.at]"
      @update:model-value="setNumber(number, $event)"
    />
  </div>
  <p class="soft small">{{ $t('kinds.whatIsAgreedIsTaken') }}</p>
  <div class="money">
    <FieldText
      :label="$t('kinds.priceOfIt')"
      at="price"
      :model-value="price"
      :maxlength="12"
      inputmode="decimal"
      lazy
      :hint="$t('kinds.paidOnceAgreed')"
      :wrong="wrong.price"
      @update:model-value="setPrice"
    />
    <FieldText
      v-if="content.price"
      :label="$t('kinds.currency')"
      at="currency"
      :model-value="content.currency"
      :maxlength="3"
      :placeholder="$t('kinds.eur')"
      lazy
      @update:model-value="setCurrency"
    />
  </div>
  <FieldText
    :label="$t('kinds.onTheButton')"
    at="button"
    :model-value="content.button"
    :maxlength="40"
    :hint="$t('kinds.leftEmptyAskForATime')"
    @update:model-value="set('button', $event)"
  />
  <FieldText
    :label="$t('kinds.saidOnceAgreed')"
    at="thanks"
    :model-value="content.thanks"
    :maxlength="300"
    :lines="2"
    @update:model-value="set('thanks', $event)"
  />
  <p class="soft">
    {{ $t('kinds.youAnswerEach') }}
    <RouterLink class="more" :to="{ name: 'bookings' }">{{ $t('kinds.toTheBookings') }}</RouterLink>
  </p>
</template>

<style scoped>
.numbers,
.money {
  display: grid;
  gap: 10px;
  align-items: end;
}
.numbers {
  grid-template-columns: repeat(3, minmax(0, 1fr));
}
.money {
  grid-template-columns: minmax(0, 1fr) 6rem;
  align-items: start;
}
.numbers :deep(input),
.money :deep(input) {
  width: 100%;
}
</style>
