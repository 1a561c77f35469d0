<script setup lang="ts">
import Select from 'primevue/select'
import { computed } from 'vue'
import type { Block, Lead } from '@/api/client'
import FieldText from '@/fields/FieldText.vue'
import FieldLead from './FieldLead.vue'
import { useContent } from './useContent'

const props = defineProps<{ block: Block }>()
const { content, set, change } = useContent(() => props.block, 'contact')

const ways = [
  { value: 'mail', label: 'E-mail' },
  { value: 'call', label: 'A call' },
  { value: 'text', label: 'A text message' },
  { value: 'app', label: 'A message by an app' },
  { value: 'card', label: 'A contact card to keep' },
]
const numbered = computed(() => ['call', 'text', 'app'].includes(content.value.way))
const written = computed(() => ['mail', 'text', 'app'].includes(content.value.way))
type Card = NonNullable<typeof content.value.card>

/** Takes the way with what it needs, so that the block leads somewhere at every moment. */
function setWay(way: typeof content.value.way) {
  change('Change the way', (contact) => {
    contact.way = way
    if (way === 'card') contact.card ??= { name: contact.title || 'Name' }
    else if (way === 'mail') contact.mailbox ||= 'me@your-site.example'
    else contact.number ||= '+44 20 7946 0018'
    if (way === 'app') contact.pattern ||= 'https://chat.example/{number}?text={text}'
  })
}

function setCard(field: keyof Card, text: string) {
  change('Change the card', (contact) => void (contact.card = { ...(contact.card ?? { name: '' }), [field]: text }), field) // prettier-ignore
}

function setLead(lead: Lead) {
  change('Change what stands before the title', (contact) =>
    Object.assign(contact, { picture: undefined, icon: undefined, emoji: undefined, ...lead }),
  )
}
</script>

<template>
  <FieldText
    label="Title"
    :model-value="content.title"
    :maxlength="120"
    @update:model-value="set('title', $event)"
  />
  <FieldText
    label="Second line"
    :model-value="content.line"
    :maxlength="160"
    hint="The number or address stands here when this is empty, so that it can be read on a desktop."
    @update:model-value="set('line', $event, 'second line')"
  />
  <div class="field">
    <label for="contact-way">By</label>
    <Select
      label-id="contact-way"
      input-id="contact-way"
      :model-value="content.way"
      :options="ways"
      option-value="value"
      option-label="label"
      aria-label="By"
      @update:model-value="setWay"
    />
  </div>
  <FieldText
    v-if="numbered"
    label="Number, with country code"
    :model-value="content.number"
    :maxlength="40"
    inputmode="tel"
    lazy
    @update:model-value="set('number', $event)"
  />
  <FieldText
    v-if="content.way === 'app'"
    label="Address pattern of the app"
    :model-value="content.pattern"
    :maxlength="300"
    inputmode="url"
    lazy
    hint="{number} and {text} are filled in, as in https://chat.example/{number}?text={text}"
    @update:model-value="set('pattern', $event)"
  />
  <template v-if="content.way === 'mail'">
    <FieldText
      label="E-mail address"
      :model-value="content.mailbox"
      :maxlength="254"
      inputmode="email"
      lazy
      @update:model-value="set('mailbox', $event, 'e-mail address')"
    />
    <FieldText
      label="Subject"
      :model-value="content.subject"
      :maxlength="200"
      @update:model-value="set('subject', $event)"
    />
  </template>
  <FieldText
    v-if="written"
    label="Text filled in"
    :model-value="content.message"
    :maxlength="1000"
    :lines="3"
    @update:model-value="set('message', $event, 'text')"
  />
  <template v-if="content.way === 'card'">
    <FieldText
      label="Name"
      :model-value="content.card?.name"
      :maxlength="120"
      lazy
      @update:model-value="setCard('name', $event)"
    />
    <FieldText
      label="Organisation"
      :model-value="content.card?.organisation"
      :maxlength="120"
      @update:model-value="setCard('organisation', $event)"
    />
    <FieldText
      label="Role"
      :model-value="content.card?.role"
      :maxlength="120"
      @update:model-value="setCard('role', $event)"
    />
    <FieldText
      label="Number"
      :model-value="content.card?.phone"
      :maxlength="40"
      inputmode="tel"
      lazy
      @update:model-value="setCard('phone', $event)"
    />
    <FieldText
      label="E-mail address"
      :model-value="content.card?.mail"
      :maxlength="120"
      inputmode="email"
      lazy
      @update:model-value="setCard('mail', $event)"
    />
    <FieldText
      label="Web address"
      :model-value="content.card?.web"
      inputmode="url"
      lazy
      @update:model-value="setCard('web', $event)"
    />
    <FieldText
      label="Postal address"
      :model-value="content.card?.place"
      :maxlength="300"
      :lines="3"
      @update:model-value="setCard('place', $event)"
    />
    <FieldText
      label="Note"
      :model-value="content.card?.note"
      :maxlength="500"
      :lines="2"
      @update:model-value="setCard('note', $event)"
    />
  </template>
  <FieldLead :lead="content" @change="setLead" />
</template>
