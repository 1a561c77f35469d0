<script setup lang="ts">
import { ref } from 'vue'
import { api, take, type Block } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
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
    change(t('kinds.takeTheMapAway'), (place) => Object.assign(place, { point: undefined, ...NO_MAP }))
    return
  }
  try {
    const point = await take(api.GET('/api/places', { params: { query: { text } } }))
    const zoom = content.value.zoom ?? 0
    change(t('kinds.putOnTheMap'), (place) => Object.assign(place, { point, ...NO_MAP }))
    if (zoom) await draw(zoom)
  } catch (error) {
    wrong.value = (error as Error).message
  }
}

/** How near a map is drawn: what a block on a phone shows of the place. */
const NEAR = [
  { value: 0, label: t('kinds.noMap') },
  { value: 17, label: t('kinds.theStreet') },
  { value: 15, label: t('kinds.theQuarter') },
  { value: 12, label: t('kinds.theTown') },
] as const
const NO_MAP = { map: undefined, mapBy: undefined, zoom: undefined }
const drawing = ref(false)

/** The picture of a map is drawn once and kept: visitors ask nobody for it. */
async function draw(zoom: number) {
  wrong.value = undefined
  const { point } = content.value
  if (!zoom || !point) {
    change(t('kinds.takeTheMapAway'), (place) => Object.assign(place, NO_MAP))
    return
  }
  drawing.value = true
  try {
    const drawn = await take(api.POST('/api/places/map', { body: { ...point, zoom } }))
    change(t('kinds.drawTheMap'), (place) => Object.assign(place, drawn, { zoom }))
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    drawing.value = false
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
  <FieldChoice
    v-if="content.point"
    :label="$t('kinds.pictureOfTheMap')"
    :model-value="content.zoom ?? 0"
    :options="NEAR"
    @update:model-value="draw"
  />
  <p v-if="drawing" class="hint" role="status">{{ $t('kinds.drawingTheMap') }}</p>
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
