<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Select from 'primevue/select'
import { computed } from 'vue'
import { api, take, type Look } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldColour from '@/fields/FieldColour.vue'
import FieldRange from '@/fields/FieldRange.vue'
import FileButton from '@/fields/FileButton.vue'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { partWord } from '@/page/partWord'
import FieldPicture from '@/pictures/FieldPicture.vue'
import { upload } from '@/pictures/upload'
import { atMost, useChosenFiles } from '@/pictures/useChosenFiles'
import { posterOf } from './poster'
import { useLook } from './useLook'
import VeilLooks from './VeilLooks.vue'

/** The background: a colour, a gradient, a pattern, a picture or a film. */
const { look, change, palette } = useLook()
type Ground = Look['ground']
const ground = computed(() => look.value?.ground as Ground)

const kinds = [
  { value: 'colour', label: t('look.colour') },
  { value: 'gradient', label: t('look.gradient') },
  { value: 'pattern', label: t('look.pattern') },
  { value: 'picture', label: t('common.picture') },
  { value: 'film', label: t('look.film') },
] as const
const BACKDROP = [
  { field: 'x', label: t('look.across'), most: 100, unit: ' %' },
  { field: 'y', label: t('look.down'), most: 100, unit: ' %' },
  { field: 'blur', label: t('look.blur'), most: 40, unit: ' px' },
] as const
const { data: choices } = useQuery({
  queryKey: ['looks'],
  queryFn: () => take(api.GET('/api/looks')),
  staleTime: Infinity,
})

/** What a kind begins with, out of the colours the page has. */
function setKind(kind: Ground['kind']) {
  change(t('look.changeTheBackground'), (changed) => {
    const { ground: made, text, soft } = changed
    made.kind = kind
    if (kind === 'gradient') made.gradient ??= { colours: [made.colour, soften(made.colour)], angle: 180 }
    if (kind === 'pattern') made.pattern ??= { name: 'dots', ink: soften(made.colour), scale: 100 }
    if (kind === 'picture')
      made.picture ??= {
        x: 50,
        y: 50,
        blur: 0,
        veil: { colour: isDark(text) ? '#ffffff' : '#000000', strength: 70 },
      }
    if (kind === 'film')
      made.film ??= { veil: { colour: isDark(soft) ? '#ffffff' : '#000000', strength: 75 } }
  })
}

const channels = (code: string) => [1, 3, 5].map((at) => parseInt(code.slice(at, at + 2), 16))
const isDark = (code: string) => channels(code).reduce((sum, value) => sum + value, 0) < 384

/** A little towards the middle: a second colour that goes with a first. */
function soften(code: string) {
  const towards = isDark(code) ? 255 : 0
  return `#${channels(code)
    .map((value) =>
      Math.round(value + (towards - value) * 0.08)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`
}

const setGround = (what: string, make: (ground: Ground) => void) =>
  change(
    t('look.changeOfTheBackground', { what: partWord(what) }),
    (changed) => make(changed.ground),
    `ground/${what}`,
  )

const { busy, wrong, choose } = useChosenFiles(async ([picked]) => {
  atMost(6, picked, t('look.thisFilmIsLarger'))
  const kept = await upload('/api/films', picked)
  const { media: original } = await upload('/api/pictures', await posterOf(picked))
  const poster = await take(api.POST('/api/pictures/cut', { body: { original, use: 'ground' } }))
  setGround('film', ({ film }) => film && Object.assign(film, { media: kept.media, poster }))
})
</script>

<template>
  <FieldChoice
    :label="$t('look.whatItIs')"
    :model-value="ground.kind"
    :options="kinds"
    @update:model-value="setKind"
  />

  <template v-if="ground.kind === 'gradient' && ground.gradient">
    <FieldColour
      v-for="(code, at) in ground.gradient.colours"
      :key="at"
      :label="$t('look.colourNumber', { n: at + 1 })"
      :model-value="code"
      :palette="palette"
      @update:model-value="
        setGround(
          $t('look.colourNumberOf', { n: at + 1 }),
          ({ gradient }) => gradient && (gradient.colours[at] = $event),
        )
      "
    />
    <Button
      :label="ground.gradient.colours.length === 2 ? $t('look.aThirdColour') : $t('look.twoColoursOnly')"
      severity="secondary"
      size="small"
      @click="
        setGround($t('look.numberOfColours'), ({ gradient }) => {
          if (gradient?.colours.length === 2) gradient.colours.push(gradient.colours[0] ?? '#ffffff')
          else gradient?.colours.pop()
        })
      "
    />
    <FieldRange
      :label="$t('look.angle')"
      :model-value="ground.gradient.angle"
      :min="0"
      :max="360"
      unit="°"
      @update:model-value="setGround('angle', ({ gradient }) => gradient && (gradient.angle = $event))"
    />
  </template>
  <FieldColour
    v-else
    :label="ground.kind === 'colour' ? $t('look.colour') : $t('look.colourUnderIt')"
    :model-value="ground.colour"
    :palette="palette"
    @update:model-value="setGround('colour', (changed) => (changed.colour = $event))"
  />

  <template v-if="ground.kind === 'pattern' && ground.pattern">
    <div class="field">
      <label for="pattern">{{ $t('look.pattern') }}</label>
      <Select
        input-id="pattern"
        label-id="pattern"
        :aria-label="$t('look.pattern')"
        :model-value="ground.pattern.name"
        :options="choices?.patterns ?? []"
        @update:model-value="setGround('pattern', ({ pattern }) => pattern && (pattern.name = $event))"
      />
    </div>
    <FieldColour
      :label="$t('look.itsInk')"
      :model-value="ground.pattern.ink"
      :palette="palette"
      @update:model-value="setGround('ink', ({ pattern }) => pattern && (pattern.ink = $event))"
    />
    <FieldRange
      :label="$t('common.size')"
      :model-value="ground.pattern.scale"
      :min="50"
      :max="300"
      unit=" %"
      @update:model-value="setGround('size', ({ pattern }) => pattern && (pattern.scale = $event))"
    />
  </template>

  <template v-if="ground.kind === 'picture' && ground.picture">
    <FieldPicture
      :label="$t('common.picture')"
      use="ground"
      :alt="$t('look.pictureBehindThePage')"
      :model-value="ground.picture.picture"
      @update:model-value="setGround('picture', ({ picture }) => picture && (picture.picture = $event))"
    />
    <FieldRange
      v-for="measure in BACKDROP"
      :key="measure.field"
      :label="measure.label"
      :model-value="ground.picture[measure.field]"
      :min="0"
      :max="measure.most"
      :unit="measure.unit"
      @update:model-value="
        setGround(measure.field, ({ picture }) => picture && (picture[measure.field] = $event))
      "
    />
    <VeilLooks
      :veil="ground.picture.veil"
      :palette="palette"
      @change="(what, make) => setGround(what, ({ picture }) => picture && make(picture.veil))"
    />
  </template>

  <template v-if="ground.kind === 'film' && ground.film">
    <div class="field">
      <span class="label">{{ $t('look.film') }}</span>
      <p class="soft small">
        {{ $t('look.shortAndSilent') }}
      </p>
      <FileButton
        :label="ground.film.media ? $t('common.chooseAnother') : $t('look.chooseAFilm')"
        :of="$t('look.filmFile')"
        accept="video/mp4,video/webm"
        :busy="busy"
        @chosen="choose"
      />
      <WrongText :text="wrong" />
    </div>
    <VeilLooks
      :veil="ground.film.veil"
      :palette="palette"
      @change="(what, make) => setGround(what, ({ film }) => film && make(film.veil))"
    />
  </template>
</template>

<style scoped>
.label {
  font-weight: 600;
  font-size: 0.9rem;
}
.field :deep(button) {
  justify-self: start;
}
</style>
