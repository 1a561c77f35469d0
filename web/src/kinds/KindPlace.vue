<script setup lang="ts">
import { ref } from 'vue'
import { api, take, type Block } from '@/api/client'
import FieldText from '@/fields/FieldText.vue'
import WeeklyRows from '@/fields/WeeklyRows.vue'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { useZone } from '@/shell/useZone'
import { useContent } from './useContent'

/** Somewhere to go to: where it is, when it is open, how to get there. */
const props = defineProps<{ block: Block }>()
const { content, set, change } = useContent(() => props.block, 'place')
const zone = useZone()
type Weekly = NonNullable<NonNullable<typeof content.value.hours>['weekly']>

const setHours = (weekly: Weekly) =>
  set('hours', weekly.length ? { zone: zone.value, weekly } : undefined, t('kinds.openingHours'))

/** What such an address looks like. */
const PATTERN = 'https://maps.example/?q={lat},{lon}'

const wrong = ref<string>()
const shown = () => (content.value.point ? `${content.value.point.lat}, ${content.value.point.lon}` : '')
/** Coordinates are read by the server, in whatever form they were copied. */
async function find(text: string) {
  wrong.value = undefined
  if (text === shown()) return
  if (!text.trim()) {
    change(t('kinds.takeTheMapAway'), (place) => void (place.point = undefined))
    return
  }
  try {
    const point = await take(api.GET('/api/places', { params: { query: { text } } }))
    change(t('kinds.putOnTheMap'), (place) => void (place.point = point))
  } catch (error) {
    wrong.value = (error as Error).message
  }
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
    :label="$t('kinds.postalAddress')"
    at="address"
    :model-value="content.address"
    :maxlength="300"
    :lines="3"
    @update:model-value="set('address', $event)"
  />
  <FieldText
    :label="$t('kinds.onTheMap')"
    :model-value="shown()"
    :maxlength="2048"
    lazy
    :hint="$t('kinds.pasteCoordinates')"
    @update:model-value="find"
  />
  <WrongText :text="wrong" />
  <FieldText
    :label="$t('kinds.aMapOfYourChoice')"
    at="pattern"
    :model-value="content.pattern"
    :maxlength="300"
    inputmode="url"
    :placeholder="PATTERN"
    :hint="$t('kinds.leftEmptyTheirOwnMap')"
    @update:model-value="set('pattern', $event)"
  />
  <div class="field">
    <span class="label">{{ $t('kinds.openingHours') }}</span>
    <WeeklyRows :model-value="content.hours?.weekly ?? []" @update:model-value="setHours" />
    <p v-if="content.hours" class="hint">
      {{ $t('fields.byTheClocksOf', { zone: content.hours.zone.replaceAll('_', ' ') }) }}
    </p>
  </div>
  <FieldText
    :label="$t('kinds.note')"
    at="note"
    :model-value="content.note"
    :maxlength="160"
    @update:model-value="set('note', $event)"
  />
</template>
