<script setup lang="ts">
import Select from 'primevue/select'
import { computed } from 'vue'
import type { Block } from '@/api/client'
import FieldText from '@/fields/FieldText.vue'
import { t } from '@/i18n'
import FieldLead from './FieldLead.vue'
import TitleAndLine from './TitleAndLine.vue'
import { useContent } from './useContent'

const props = defineProps<{ block: Block }>()
const { content, set, change, setLead } = useContent(() => props.block, 'contact')

const ways = [
  { value: 'mail', label: 'E-mail' },
  { value: 'call', label: t('kinds.aCall') },
  { value: 'text', label: t('kinds.aTextMessage') },
  { value: 'app', label: t('kinds.aMessageByAnApp') },
  { value: 'card', label: t('kinds.aContactCardToKeep') },
]
const numbered = computed(() => ['call', 'text', 'app'].includes(content.value.way))
const written = computed(() => ['mail', 'text', 'app'].includes(content.value.way))
type Card = NonNullable<typeof content.value.card>

/** The lines of a contact card. */
const CARD = [
  { field: 'name', label: t('common.name'), most: 120 },
  { field: 'organisation', label: t('kinds.organisation'), most: 120 },
  { field: 'role', label: t('kinds.role'), most: 120 },
  { field: 'phone', label: t('kinds.number'), most: 40, inputmode: 'tel' },
  { field: 'mail', label: t('kinds.eMailAddress'), most: 120, inputmode: 'email' },
  { field: 'web', label: t('kinds.webAddress'), most: 2048, inputmode: 'url' },
  { field: 'place', label: t('kinds.postalAddress'), most: 300, lines: 3 },
  { field: 'note', label: t('kinds.note'), most: 500, lines: 2 },
] as {
  field: keyof Card
  label: string
  most: number
  lines?: number
  inputmode?: 'tel' | 'email' | 'url'
}[]

/** Takes the way with what it needs, so that the block leads somewhere at every moment. */
function setWay(way: typeof content.value.way) {
  change(t('kinds.changeTheWay'), (contact) => {
    contact.way = way
    if (way === 'card') contact.card ??= { name: contact.title || t('common.name') }
    else if (way === 'mail') contact.mailbox ||= 'me@your-site.example'
    else contact.number ||= '+44 20 7946 0018'
    if (way === 'app') contact.pattern ||= 'https://chat.example/{number}?text={text}'
  })
}

function setCard(field: keyof Card, text: string) {
  change(
    t('kinds.changeTheCard'),
    (contact) => void (contact.card = { ...(contact.card ?? { name: '' }), [field]: text }),
    field,
  )
}
</script>

<template>
  <TitleAndLine
    :content="content"
    :hint="$t('kinds.theNumberOrAddressStands')"
    @title="set('title', $event)"
    @line="set('line', $event, $t('kinds.secondLineOf'))"
  />
  <div class="field">
    <label for="contact-way">{{ $t('kinds.by') }}</label>
    <Select
      label-id="contact-way"
      input-id="contact-way"
      :model-value="content.way"
      :options="ways"
      option-value="value"
      option-label="label"
      :aria-label="$t('kinds.by')"
      @update:model-value="setWay"
    />
  </div>
  <FieldText
    v-if="numbered"
    :label="$t('kinds.numberWithCountryCode')"
    at="number"
    :model-value="content.number"
    :maxlength="40"
    inputmode="tel"
    @update:model-value="set('number', $event)"
  />
  <FieldText
    v-if="content.way === 'app'"
    :label="$t('kinds.addressPatternOfTheApp')"
    at="pattern"
    :model-value="content.pattern"
    :maxlength="300"
    inputmode="url"
    :hint="$t('kinds.numberAndTextAreFilled')"
    @update:model-value="set('pattern', $event)"
  />
  <template v-if="content.way === 'mail'">
    <FieldText
      :label="$t('kinds.eMailAddress')"
      at="mailbox"
      :model-value="content.mailbox"
      :maxlength="254"
      inputmode="email"
      @update:model-value="set('mailbox', $event, $t('kinds.eMailAddressOf'))"
    />
    <FieldText
      :label="$t('kinds.subject')"
      at="subject"
      :model-value="content.subject"
      :maxlength="200"
      @update:model-value="set('subject', $event)"
    />
  </template>
  <FieldText
    v-if="written"
    :label="$t('kinds.textFilledIn')"
    at="message"
    :model-value="content.message"
    :maxlength="1000"
    :lines="3"
    @update:model-value="set('message', $event, 'text')"
  />
  <template v-if="content.way === 'card'">
    <FieldText
      v-for="line in CARD"
      :key="line.field"
      :label="line.label"
      :at="`card/${line.field}`"
      :model-value="content.card?.[line.field]"
      :maxlength="line.most"
      :lines="line.lines"
      :inputmode="line.inputmode"
      @update:model-value="setCard(line.field, $event)"
    />
  </template>
  <FieldLead :lead="content" @change="setLead" />
</template>
