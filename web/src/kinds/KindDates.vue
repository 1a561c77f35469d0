<script setup lang="ts">
import Button from 'primevue/button'
import type { Block } from '@/api/client'
import FieldMoment from '@/fields/FieldMoment.vue'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import FieldText from '@/fields/FieldText.vue'
import ToolButton from '@/fields/ToolButton.vue'
import { Trash2 } from '@lucide/vue'
import { tomorrowAtNine } from '@/fields/zonedTime'
import { t } from '@/i18n'
import { leadTo } from '@/page/leadTo'
import { newKey } from '@/page/newKey'
import { useZone } from '@/shell/useZone'
import FieldAddress from './FieldAddress.vue'
import { useContent } from './useContent'

/** Dates with their places and where tickets are. */
const props = defineProps<{ block: Block }>()
const { content, set, change } = useContent(() => props.block, 'dates')
const zone = useZone()
const MOST = 60
type Item = (typeof content.value.items)[number]

function setItem(at: number, what: string, make: (item: Item) => void) {
  change(
    t('kinds.changeADate'),
    (dates) => {
      dates.zone = zone.value
      if (dates.items[at]) make(dates.items[at])
    },
    `${at}/${what}`,
  )
}

function add() {
  change(t('kinds.addADate'), (dates) => {
    const last = dates.items.at(-1)
    dates.zone = zone.value
    dates.items.push({
      key: newKey(),
      what: last?.what ?? t('kinds.newDate'),
      from: tomorrowAtNine(zone.value),
      place: last?.place,
    })
  })
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
  <FieldSwitch
    :label="$t('kinds.offerACalendar')"
    :hint="$t('kinds.thoseToComeAsAFile')"
    :model-value="content.calendar"
    @update:model-value="set('calendar', $event)"
  />
  <FieldSwitch
    :label="$t('kinds.keepPastDates')"
    :model-value="content.past"
    @update:model-value="set('past', $event)"
  />
  <p class="soft">{{ $t('fields.byTheClocksOf', { zone: zone.replaceAll('_', ' ') }) }}</p>
  <ol class="block-items">
    <li v-for="(item, at) in content.items" :key="item.key">
      <FieldText
        :label="$t('kinds.whatItIs')"
        :at="`items/${item.key}/what`"
        :model-value="item.what"
        :maxlength="120"
        @update:model-value="setItem(at, 'what', (each) => (each.what = $event))"
      />
      <div class="from-to">
        <FieldMoment
          :label="$t('kinds.begins')"
          :at="`items/${item.key}/from`"
          :model-value="item.from"
          :zone="zone"
          :day="item.wholeDay"
          @update:model-value="(moment) => moment && setItem(at, 'from', (each) => (each.from = moment))"
        />
        <FieldMoment
          :label="$t('kinds.ends')"
          :at="`items/${item.key}/to`"
          :model-value="item.to"
          :zone="zone"
          :day="item.wholeDay"
          @update:model-value="(moment) => setItem(at, 'to', (each) => (each.to = moment))"
        />
      </div>
      <FieldSwitch
        :label="$t('kinds.onlyTheDay')"
        :model-value="item.wholeDay"
        @update:model-value="setItem(at, 'wholeDay', (each) => (each.wholeDay = $event))"
      />
      <FieldText
        :label="$t('kinds.place')"
        :at="`items/${item.key}/place`"
        :model-value="item.place"
        :maxlength="160"
        @update:model-value="setItem(at, 'place', (each) => (each.place = $event))"
      />
      <FieldAddress
        :label="$t('kinds.whereTicketsAre')"
        :at="`items/${item.key}/address`"
        :model-value="item.address"
        :still="$t('kinds.theDateStillLeads')"
        @update:model-value="setItem(at, 'address', (each) => leadTo(each, $event))"
      />
      <FieldText
        :label="$t('kinds.inPlaceOfTickets')"
        :at="`items/${item.key}/soldOut`"
        :model-value="item.soldOut"
        :maxlength="40"
        :placeholder="$t('kinds.soldOut')"
        @update:model-value="setItem(at, 'soldOut', (each) => (each.soldOut = $event))"
      />
      <div class="tools">
        <ToolButton
          :icon="Trash2"
          :label="$t('fields.takeOut', { name: item.what })"
          @click="change($t('kinds.takeADateOut'), ({ items }) => items.splice(at, 1))"
        />
      </div>
    </li>
  </ol>
  <Button
    size="small"
    severity="secondary"
    :label="$t('kinds.addADate')"
    :disabled="content.items.length >= MOST"
    @click="add"
  />
</template>

<style scoped>
.from-to {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(12rem, 1fr));
  gap: 10px;
}
.tools {
  display: flex;
  justify-content: flex-end;
}
</style>
